/**
 * What a device gives, on its way to the recorder's worker: a stream of the browser's own, or, where it has
 * none, a port on which frames or samples come.
 */
export type Given =
  | { readonly readable: ReadableStream<VideoFrame> | ReadableStream<AudioData> }
  | { readonly port: MessagePort };
