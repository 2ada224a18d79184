/** What is used of packages that come without types. */

declare module '@tesseract.js-data/eng' {
  const english: {
    /** A folder of what was learnt, beside others. */
    readonly langPath: string;
  };
  export = english;
}

declare module 'tesseract.js-core/tesseract-core-simd-lstm.js' {
  interface Recogniser {
    readonly FS: { writeFile(path: string, bytes: Uint8Array): void };
    readonly TessBaseAPI: new () => {
      /** @returns −1: it can’t */
      Init(path: null, language: string, engine: number): number;
      SetVariable(name: string, value: string): void;
      /** Of `/input`. @returns 1: it is no picture */
      SetImageFile(turn: number, angle: number): number;
      Recognize(monitor: null): void;
      GetJSONText(): string;
      Clear(): void;
      End(): void;
    };
  }
  const load: (options: {
    print: (line: string) => void;
    printErr: (line: string) => void;
  }) => Promise<Recogniser>;
  export = load;
}
