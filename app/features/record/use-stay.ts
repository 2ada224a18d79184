import { useEffect, useRef, useState } from 'react';

export interface Stay {
  /** Someone has gone back in the browser's history while it was recording, and is asked. */
  readonly asked: boolean;
  readonly stay: () => void;
  /** Goes back to the page before as soon as the recording has ended. */
  readonly leave: () => void;
}

/**
 * A page that is recording asks before it is left. When the tab is closed the browser asks by itself. Going
 * back in its history can't be refused; so while it records, the same page stands in the history twice:
 * going back takes one away, and the other is still there to ask.
 */
export const useStay = (recording: boolean): Stay => {
  const [asked, setAsked] = useState(false);
  const leaving = useRef(false);

  useEffect(() => {
    if (!recording) return undefined;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    addEventListener('beforeunload', warn);
    return () => removeEventListener('beforeunload', warn);
  }, [recording]);

  useEffect(() => {
    if (!recording) return undefined;
    const here = location.href;
    // To the router it is the same page: it knows its pages by the state they have in the history.
    const twice = () => history.pushState(history.state, '', here);
    twice();
    const wentBack = () => {
      if (location.href !== here) return;
      setAsked(true);
      twice();
    };
    addEventListener('popstate', wentBack);
    return () => {
      removeEventListener('popstate', wentBack);
      if (location.href === here) history.go(leaving.current ? -2 : -1);
      leaving.current = false;
      setAsked(false);
    };
  }, [recording]);

  return {
    asked,
    stay: () => setAsked(false),
    leave: () => {
      leaving.current = true;
    },
  };
};
