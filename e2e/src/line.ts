import { connect, createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { once } from 'node:events';

/** A line between a browser and the server that can be cut, as a network can. */
export class Line {
  readonly #to: number;
  readonly #server: Server;
  readonly #sockets = new Set<Socket>();
  #cut = false;

  private constructor(to: number) {
    this.#to = to;
    this.#server = createServer((near) => {
      if (this.#cut) return void near.destroy();
      const far = connect(this.#to, '127.0.0.1');
      for (const socket of [near, far]) {
        this.#sockets.add(socket);
        socket.on('error', () => socket.destroy());
        socket.on('close', () => {
          this.#sockets.delete(socket);
          near.destroy();
          far.destroy();
        });
      }
      near.pipe(far).pipe(near);
    });
  }

  static async open(to: number): Promise<Line> {
    const line = new Line(to);
    line.#server.listen(0, '127.0.0.1');
    await once(line.#server, 'listening');
    return line;
  }

  get url(): string {
    return `http://127.0.0.1:${(this.#server.address() as AddressInfo).port}`;
  }

  /** Breaks every connection and lets none through. */
  cut(): void {
    this.#cut = true;
    for (const socket of this.#sockets) socket.destroy();
  }

  mend(): void {
    this.#cut = false;
  }

  async close(): Promise<void> {
    this.cut();
    this.#server.close();
    await once(this.#server, 'close');
  }
}
