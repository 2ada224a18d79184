import { fromDbfs, levelOf } from '@under-chalk/core/sound/level';
import { drawTeacher, TEACHER_SIZE } from '@under-chalk/paint/practice/teacher';
import { drawScreen, SCREEN_SIZE } from '@under-chalk/paint/practice/tide-table';

const FRAME_MS = 1000 / 30;
/** How long the clapper's flash stays: seen in at least two frames of any film. */
const FLASH_SECONDS = 0.12;
const CLICK_SECONDS = 0.03;
/** A drawn picture comes out of its track this much later than a sound of the same instant (measured). */
const CLICK_AFTER_SECONDS = 0.014;
const VOICE_ADDRESS = '/practice/voice.mp3';

interface Drawn {
  readonly context: CanvasRenderingContext2D;
  readonly track: CanvasCaptureMediaStreamTrack;
  readonly stream: MediaStream;
  readonly draw: (seconds: number, mouth: number) => void;
}

/** A short square wave of 2 kHz, louder than any speech. */
const clickIn = (audio: AudioContext): AudioBuffer => {
  const buffer = audio.createBuffer(
    1,
    Math.round(audio.sampleRate * CLICK_SECONDS),
    audio.sampleRate,
  );
  const samples = buffer.getChannelData(0);
  samples.forEach((_, index) => {
    samples[index] = 0.95 * Math.sign(Math.sin((2 * Math.PI * 2_000 * index) / audio.sampleRate));
  });
  return buffer;
};

/**
 * The simulated camera, microphone and screen that ship with the app. All three run on the one clock of
 * an AudioContext, so that the clapper's flash and click are made at one instant.
 */
export class PracticeDevices {
  readonly #audio = new AudioContext({ sampleRate: 48_000 });
  readonly #voiceOut = this.#audio.createMediaStreamDestination();
  readonly #computerOut = this.#audio.createMediaStreamDestination();
  readonly #ear = this.#audio.createAnalyser();
  readonly #heard = new Float32Array(1024);
  readonly #drawn = new Map<'camera' | 'screen', Drawn>();
  readonly #timer: ReturnType<typeof setInterval>;
  #voice: AudioBufferSourceNode | null = null;
  readonly #click = clickIn(this.#audio);
  #flashUntil = 0;

  constructor() {
    this.#ear.fftSize = 1024;
    // Silence, so that the computer's sound has samples also while nothing clicks.
    const silence = new ConstantSourceNode(this.#audio, { offset: 0 });
    silence.connect(this.#computerOut);
    silence.start();
    this.#timer = setInterval(() => this.#draw(), FRAME_MS);
    void this.#audio.resume();
  }

  camera(): MediaStream {
    return this.#open('camera', TEACHER_SIZE, drawTeacher).stream;
  }

  /** The practice screen; with the sound of the computer it runs on, if that is wanted. */
  screen(withSound: boolean): MediaStream {
    const { stream } = this.#open('screen', SCREEN_SIZE, drawScreen);
    if (!withSound) return stream;
    return new MediaStream([...stream.getVideoTracks(), ...this.#computerOut.stream.getTracks()]);
  }

  /** The practice voice, spoken again and again. Resolves when it has been fetched. */
  async voice(): Promise<MediaStream> {
    if (!this.#voice) {
      const response = await fetch(VOICE_ADDRESS);
      const buffer = await this.#audio.decodeAudioData(await response.arrayBuffer());
      this.#voice = new AudioBufferSourceNode(this.#audio, { buffer, loop: true });
      this.#voice.connect(this.#ear);
      this.#voice.connect(this.#voiceOut);
      this.#voice.start();
    }
    return this.#voiceOut.stream;
  }

  /**
   * The clapper: a white flash on camera and screen and a click in the voice, at one instant. The flash is
   * drawn here and now and the click starts with the next samples: whatever the page is busy with, it
   * can't come between them.
   */
  clap(): void {
    const click = new AudioBufferSourceNode(this.#audio, { buffer: this.#click });
    click.connect(this.#voiceOut);
    click.connect(this.#computerOut);
    this.#flashUntil = this.#audio.currentTime + FLASH_SECONDS;
    this.#draw();
    click.start(this.#audio.currentTime + CLICK_AFTER_SECONDS);
  }

  /** Ends all three. */
  close(): void {
    clearInterval(this.#timer);
    for (const { track } of this.#drawn.values()) track.stop();
    for (const out of [this.#voiceOut, this.#computerOut]) {
      out.stream.getTracks().forEach((track) => track.stop());
    }
    void this.#audio.close();
  }

  #open(
    name: 'camera' | 'screen',
    size: { width: number; height: number },
    draw: (context: CanvasRenderingContext2D, seconds: number, mouth: number) => void,
  ): Drawn {
    const present = this.#drawn.get(name);
    if (present && present.track.readyState === 'live') return present;
    const canvas = document.createElement('canvas');
    canvas.width = size.width;
    canvas.height = size.height;
    const context = canvas.getContext('2d', { alpha: false })!;
    // Frames are sent when they have been drawn, not when the browser next looks.
    const stream = canvas.captureStream(0);
    const drawn: Drawn = {
      context,
      stream,
      track: stream.getVideoTracks()[0] as CanvasCaptureMediaStreamTrack,
      draw: (seconds, mouth) => draw(context, seconds, mouth),
    };
    this.#drawn.set(name, drawn);
    return drawn;
  }

  #draw(): void {
    const now = this.#audio.currentTime;
    const flash = now < this.#flashUntil;
    this.#ear.getFloatTimeDomainData(this.#heard);
    const loudness = fromDbfs(levelOf(this.#heard).rmsDbfs);
    const mouth = Math.min(1, loudness * 5);
    for (const { context, draw, track } of this.#drawn.values()) {
      if (flash) {
        context.fillStyle = '#fff';
        context.fillRect(0, 0, context.canvas.width, context.canvas.height);
      } else draw(now, mouth);
      track.requestFrame();
    }
  }
}
