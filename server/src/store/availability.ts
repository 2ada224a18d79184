import type { Grant } from '@under-chalk/core/hand-out/grant';
import type { Availability } from '@under-chalk/core/hand-out/may-watch';
import type { StoredHandOut } from './hand-out-store';

/** A stored hand-out with its grants, as whoever decides about it knows it. */
export const availabilityOf = (
  { taken_back_at, from_at, until_at }: StoredHandOut,
  grants: readonly Grant[],
): Availability => ({ takenBackAt: taken_back_at, fromAt: from_at, untilAt: until_at, grants });
