import type { BrowserContext, Page } from '@playwright/test';

const CHANNEL = 'under-chalk-test-encoders';

/** Which encoders are made to fail. */
export type Encoders = 'pictures' | 'sound' | 'all';

/**
 * Runs in the recorder's worker before anything else. The encoders are the browser's own; at a word they end
 * as they do when a driver goes: closed, with all they held, and their error told.
 */
const inWorker = (channel: string) => {
  const make = <T extends typeof VideoEncoder | typeof AudioEncoder>(Real: T, kind: string): T => {
    const live: { encoder: InstanceType<T>; error: (error: DOMException) => void }[] = [];
    new BroadcastChannel(channel).onmessage = ({ data }) => {
      if (data !== 'all' && data !== kind) return;
      for (const { encoder, error } of live.splice(0)) {
        if (encoder.state !== 'configured') continue;
        encoder.close();
        error(new DOMException('made to fail', 'EncodingError'));
      }
    };
    return class extends (Real as new (init: never) => VideoEncoder) {
      constructor(init: { error: (error: DOMException) => void }) {
        super(init as never);
        live.push({ encoder: this as never, error: init.error });
      }
      static isConfigSupported = Real.isConfigSupported.bind(Real);
    } as unknown as T;
  };
  Object.assign(self, {
    VideoEncoder: make(VideoEncoder, 'pictures'),
    AudioEncoder: make(AudioEncoder, 'sound'),
  });
};

/** Lets the encoders of recorders that are opened from now on be made to fail. */
export const holdEncoders = async (context: BrowserContext): Promise<void> => {
  await context.route(/\/recorder-[0-9a-f]+\.js$/, async (route) => {
    const response = await route.fetch();
    const body = `(${inWorker.toString()})(${JSON.stringify(CHANNEL)});\n${await response.text()}`;
    await route.fulfill({ response, body });
  });
};

/** Makes the encoders at work fail now. */
export const failEncoders = (page: Page, which: Encoders): Promise<void> =>
  page.evaluate(
    ([channel, kind]) => {
      const sender = new BroadcastChannel(channel!);
      sender.postMessage(kind);
      sender.close();
    },
    [CHANNEL, which],
  );
