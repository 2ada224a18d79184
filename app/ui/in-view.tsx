import { useCallback, useState, type ReactNode } from 'react';
import { View, type ViewProps } from 'react-native';

/** How far outside of what is in sight something counts as coming into view. */
const MARGIN = '300px';

const canTell = (): boolean => typeof IntersectionObserver !== 'undefined';

/** Calls back when a view comes into sight. @returns to be put on the view; undefined stops it */
const useSight = (onSeen: (() => void) | undefined) =>
  useCallback(
    (view: View | null) => {
      // In a browser a view is an element.
      const element = view as unknown as Element | null;
      if (!element || !onSeen || !canTell()) return undefined;
      const observer = new IntersectionObserver(
        (entries) => {
          if (entries.some((entry) => entry.isIntersecting)) onSeen();
        },
        { rootMargin: MARGIN },
      );
      observer.observe(element);
      return () => observer.disconnect();
    },
    [onSeen],
  );

interface Props extends ViewProps {
  readonly children: ReactNode;
}

interface InViewProps extends Props {
  /** It isn't waited for. */
  readonly atOnce?: boolean;
}

/**
 * Shows what is in it once it has come into view, and from then on: a picture is asked for only when
 * somebody is about to see it.
 */
export const InView = ({ children, atOnce = false, ...rest }: InViewProps) => {
  const [seen, setSeen] = useState(() => atOnce || !canTell());
  const see = useCallback(() => setSeen(true), []);
  const sight = useSight(seen ? undefined : see);
  return (
    <View ref={sight} {...rest}>
      {seen ? children : null}
    </View>
  );
};

/** Calls back when what is in it comes into view, whatever that is: whoever can’t tell has its children to press. */
export const WhenSeen = ({
  onSeen,
  children,
  ...rest
}: Props & { readonly onSeen: () => void }) => (
  <View ref={useSight(onSeen)} {...rest}>
    {children}
  </View>
);
