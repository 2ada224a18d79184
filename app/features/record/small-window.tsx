import { useEffect, useState, type ReactElement } from 'react';
import { View } from 'react-native';
import { render } from 'react-native-web';
import { LightsDownContext } from '../../ui/theme';

const SIZE = { width: 420, height: 420 };

export const canOpenSmallWindow = (): boolean => 'documentPictureInPicture' in window;

/** Copies what the page's own style sheets say of fonts: the interface's styles follow by themselves. */
const copyFonts = (from: Document, to: Document) => {
  for (const face of from.fonts) to.fonts.add(face);
  for (const style of from.querySelectorAll('style')) {
    if (style.textContent?.includes('@font-face')) to.head.append(style.cloneNode(true));
  }
};

export interface SmallWindow {
  readonly open: boolean;
  readonly show: () => void;
  readonly close: () => void;
}

/**
 * A small window that stays on top of all others (Document Picture-in-Picture), so that the app need not
 * be in the picture. What is shown in it is drawn by a second root, from the same parts.
 *
 * @param content what it shows, or null; drawn anew with each change
 */
export const useSmallWindow = (title: string, content: ReactElement): SmallWindow => {
  const [shown, setShown] = useState<{ window: Window; root: ReturnType<typeof render> } | null>(
    null,
  );
  const show = () => {
    void window.documentPictureInPicture?.requestWindow(SIZE).then((small) => {
      const { document: page } = small;
      copyFonts(document, page);
      page.title = title;
      page.documentElement.lang = document.documentElement.lang || 'en';
      page.body.style.cssText = 'margin:0;height:100vh;display:flex;background:#1c252b';
      const box = page.createElement('div');
      box.style.cssText = 'display:flex;flex:1';
      page.body.append(box);
      const root = render(<View />, box);
      setShown({ window: small, root });
      small.addEventListener('pagehide', () => {
        root.unmount();
        setShown(null);
      });
    });
  };
  useEffect(() => {
    shown?.root.render(<LightsDownContext.Provider value>{content}</LightsDownContext.Provider>);
  }, [shown, content]);
  useEffect(() => () => shown?.window.close(), [shown]);
  return { open: shown !== null, show, close: () => shown?.window.close() };
};
