/** Browsers that give and take permissions in the same way. */
export type BrowserFamily =
  'chromium' | 'firefox' | 'safari' | 'phone-chromium' | 'phone-safari' | 'other';

/** The family of a browser, by what it says of itself (RFC 9110 §10.1.5). */
export const familyOf = (userAgent: string): BrowserFamily => {
  const apple = /iPhone|iPad|iPod/.test(userAgent);
  if (apple) return 'phone-safari';
  if (/Firefox\//.test(userAgent)) return 'firefox';
  if (/Chrome\/|Chromium\//.test(userAgent)) {
    return /Android/.test(userAgent) ? 'phone-chromium' : 'chromium';
  }
  return /Safari\//.test(userAgent) ? 'safari' : 'other';
};

type Device = 'camera' | 'microphone';

/** How to give a permission that was refused, step by step. */
export const stepsToAllow = (family: BrowserFamily, device: Device): readonly string[] => {
  const again = 'It is tried again by itself; if not, press “Try again”.';
  switch (family) {
    case 'chromium':
      return [
        'Press the sign at the left end of the address line.',
        `Turn “${device === 'camera' ? 'Camera' : 'Microphone'}” on.`,
        again,
      ];
    case 'phone-chromium':
      return [
        'Press the sign at the left end of the address line, then “Permissions”.',
        `Allow the ${device}.`,
        `If it is not in the list: the phone’s settings, Apps, this browser, Permissions, ${device}.`,
        again,
      ];
    case 'firefox':
      return [
        `Press the crossed-out ${device} in the address line.`,
        'Take the block away with the × beside it.',
        again,
      ];
    case 'safari':
      return [
        'In the menu bar: the browser’s menu, “Settings for This Website…”.',
        `Set “${device === 'camera' ? 'Camera' : 'Microphone'}” to Allow.`,
        again,
      ];
    case 'phone-safari':
      return [
        'Press the sign at the left end of the address line, then “Website Settings”.',
        `Set the ${device} to Allow.`,
        again,
      ];
    case 'other':
      return [`Allow the ${device} for this page in the browser’s settings.`, again];
  }
};

/** What a captured surface is (Screen Capture §5.3 `displaySurface`), and what is and isn't in the picture. */
export const surfaceWords = (displaySurface: string | undefined): string => {
  switch (displaySurface) {
    case 'browser':
      return 'Only this tab is in the picture: other tabs and windows will not be seen.';
    case 'window':
      return 'Only this window is in the picture: other windows, and menus that open outside of it, will not be seen.';
    case 'monitor':
      return 'The whole screen is in the picture: every window, message and name that comes up on it will be seen.';
    default:
      return 'What you see above is what will be in the picture.';
  }
};
