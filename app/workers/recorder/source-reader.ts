/**
 * Reads what a device gives, one thing after another, until it ends or another device takes its place.
 */
export class SourceReader<T extends { close(): void }> {
  #reader: ReadableStreamDefaultReader<T> | null = null;
  #over = false;

  /**
   * @param stream from now on what is read; the one before is let go of
   * @param onItem takes one in, and closes it; the next is read when it is done
   * @returns whether the source ended by itself, and not because another took its place or reading was
   *   ended
   */
  async read(
    stream: ReadableStream<T>,
    onItem: (item: T) => void | Promise<void>,
  ): Promise<boolean> {
    void this.#reader?.cancel().catch(() => undefined);
    const reader = stream.getReader();
    this.#reader = reader;
    for (;;) {
      const { value: item, done } = await reader.read();
      if (this.#over || this.#reader !== reader) {
        item?.close();
        return false;
      }
      if (done || !item) return true;
      await onItem(item);
    }
  }

  /** Nothing is read any more. */
  end(): void {
    this.#over = true;
    void this.#reader?.cancel().catch(() => undefined);
  }
}
