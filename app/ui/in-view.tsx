import { useCallback, useState, type ReactNode } from 'react';
import { View, type ViewProps } from 'react-native';

/** How far outside of what is in sight something counts as coming into view. */
const MARGIN = '300px';

interface Props extends ViewProps {
  readonly children: ReactNode;
}

/**
 * Shows what is in it once it has come into view, and from then on: a picture is asked for only when
 * somebody is about to see it.
 */
export const InView = ({ children, ...rest }: Props) => {
  const [seen, setSeen] = useState(typeof IntersectionObserver === 'undefined');
  const watch = useCallback(
    (view: View | null) => {
      // In a browser a view is an element.
      const element = view as unknown as Element | null;
      if (!element || seen) return undefined;
      const observer = new IntersectionObserver(
        (entries) => {
          if (entries.some((entry) => entry.isIntersecting)) setSeen(true);
        },
        { rootMargin: MARGIN },
      );
      observer.observe(element);
      return () => observer.disconnect();
    },
    [seen],
  );
  return (
    <View ref={watch} {...rest}>
      {seen ? children : null}
    </View>
  );
};
