import {
  destinationOf,
  FREE_DESTINATION,
  type Destination,
} from '@under-chalk/core/destination/destination';
import { ATTENTION_US } from '@under-chalk/core/destination/gauge';
import type { Us } from '@under-chalk/core/time/us';
import { useDestinations } from '../../data/queries';
import { LengthGauge } from '../../ui/length-gauge';

/** A destination by its id; one that is gone has no limits. */
export const useDestination = (id: string): Destination => {
  const { data } = useDestinations();
  return data ? destinationOf(data.destinations, id) : FREE_DESTINATION;
};

/** Where attention usually ends, µs. */
export const useAttention = (): Us => useDestinations().data?.attentionUs ?? ATTENTION_US;

interface Props {
  readonly usedUs: Us;
  readonly destinationId: string;
  readonly thin?: boolean;
}

/** The length gauge of a lesson that goes to a destination. */
export const LessonGauge = ({ usedUs, destinationId, thin }: Props) => (
  <LengthGauge
    usedUs={usedUs}
    destination={useDestination(destinationId)}
    attentionUs={useAttention()}
    {...(thin ? { thin } : {})}
  />
);
