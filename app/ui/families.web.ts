import { useEffect } from 'react';

/** In a browser the families stand in `fonts.css`. Text on a canvas is no use of a family that a browser would fetch it for. */
export const useFamilies = (): boolean => {
  useEffect(() => {
    void document.fonts?.load('600 20px Bitter');
  }, []);
  return true;
};
