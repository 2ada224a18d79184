/** What a course site gives the pages in it to talk with (SCORM 1.2 Run-Time Environment, §3.2). All of it is text. */
export interface SiteApi {
  LMSInitialize(nothing: ''): string;
  LMSGetValue(name: string): string;
  LMSSetValue(name: string, value: string): string;
  LMSCommit(nothing: ''): string;
  LMSFinish(nothing: ''): string;
}

/** As the standard has it: no site's frames go deeper. */
const MOST_DEEP = 7;

const apiOf = (window: Window): SiteApi | null => {
  try {
    return (window as Window & { API?: SiteApi }).API ?? null;
  } catch {
    // A frame of another origin is none of ours to look into.
    return null;
  }
};

/** Finds it in one of the frames round this one, or round the window that opened it (§3.2.2.1); null: this is no course site. */
export const findApi = (from: Window): SiteApi | null => {
  for (const start of [from, from.opener as Window | null]) {
    let here: Window | null = start;
    for (let deep = 0; here && deep <= MOST_DEEP; deep++) {
      const found = apiOf(here);
      if (found) return found;
      here = here.parent === here ? null : here.parent;
    }
  }
  return null;
};

/** A length of time as sites are told it: `0000:12:34.50` (CMITimespan). */
export const asTimespan = (seconds: number): string => {
  const whole = Math.floor(seconds);
  const two = (value: number) => String(value).padStart(2, '0');
  const hours = String(Math.min(9_999, Math.floor(whole / 3600))).padStart(4, '0');
  return `${hours}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}.${two(Math.floor((seconds - whole) * 100))}`;
};
