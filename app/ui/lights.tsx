import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from 'react';
import { LightsDownContext } from './theme';

const SetLightsContext = createContext<(down: boolean) => void>(() => undefined);

/** Holds whether the whole application is dark. */
export const LightsProvider = ({ children }: { children: ReactNode }) => {
  const [down, setDown] = useState(false);
  const set = useMemo(() => setDown, []);
  return (
    <SetLightsContext.Provider value={set}>
      <LightsDownContext.Provider value={down}>{children}</LightsDownContext.Provider>
    </SetLightsContext.Provider>
  );
};

/** Puts the lights down for as long as `down` holds and the caller is there. */
export const useLightsDown = (down: boolean): void => {
  const set = useContext(SetLightsContext);
  useEffect(() => {
    set(down);
    return () => set(false);
  }, [down, set]);
};
