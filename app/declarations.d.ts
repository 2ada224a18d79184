/** Sizes and rotation apart, the icons' module files have no types of their own. */
declare module 'lucide-react-native/icons/*' {
  const Icon: (props: { size?: number; color?: string; strokeWidth?: number }) => React.JSX.Element;
  export default Icon;
}

/** In workers only (File System §3.6); in the app's own files it is used through the store that a worker opens. */
interface FileSystemFileHandle {
  createSyncAccessHandle(): Promise<{
    write(bytes: Uint8Array<ArrayBuffer>): number;
    flush(): void;
    close(): void;
  }>;
}

/** Document Picture-in-Picture (WICG), where the browser has it. */
interface Window {
  readonly documentPictureInPicture?: {
    readonly window: Window | null;
    requestWindow(size: { width: number; height: number }): Promise<Window>;
  };
}

/** A second root for the interface, with its styles kept in step (the small window). */
declare module 'react-native-web' {
  import type { ReactElement } from 'react';
  export function render(
    element: ReactElement,
    root: Element,
  ): {
    render(element: ReactElement): void;
    unmount(): void;
  };
}
