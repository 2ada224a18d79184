import type { Grant } from '@under-chalk/core/share-link/grant';
import type { Availability } from '@under-chalk/core/share-link/may-watch';
import type { StoredShareLink } from './share-link-store';

/** A stored link with its grants, as whoever decides about it knows it. */
export const availabilityOf = (
  { revoked_at, available_from, available_until }: StoredShareLink,
  grants: readonly Grant[],
): Availability => ({
  revokedAt: revoked_at,
  availableFrom: available_from,
  availableUntil: available_until,
  grants,
});
