import { transfer, wrap, type Remote } from 'comlink';
import type { HeardNote } from '../../core/rehearsal';
import type { HearingDoor } from './hearing.worker';

/** Why nothing can be heard, in words for the person. */
export class HearingError extends Error {}

/**
 * Listens through the microphone: what it hears is looked at for its pitch as it comes, and dropped. Nothing is
 * recorded, and nothing leaves this machine.
 */
export class Microphone {
  private readonly worker: Worker;
  private readonly door: Remote<HearingDoor>;
  private node: AudioWorkletNode | undefined;
  private isFirst = true;
  private keys: readonly number[] = [];

  private constructor(
    private readonly stream: MediaStream,
    private readonly context: AudioContext,
  ) {
    this.worker = hearingWorker();
    this.door = wrap<HearingDoor>(this.worker);
  }

  /** Fetches what listens, so that it is there without a network as well; nothing is listened to. */
  static fetch(): () => void {
    const worker = hearingWorker();
    const end = setTimeout(() => worker.terminate(), FETCHED);
    return () => {
      clearTimeout(end);
      worker.terminate();
    };
  }

  /** Asks for the microphone. @throws HearingError where there is none, or it is refused */
  static async open(context: AudioContext): Promise<Microphone> {
    if (!('mediaDevices' in navigator) || !('audioWorklet' in context))
      throw new HearingError('This browser cannot listen here. Everything else works without.');
    const stream = await navigator.mediaDevices
      .getUserMedia({ audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false } })
      .catch((error: unknown) => {
        const name = error instanceof DOMException ? error.name : '';
        throw new HearingError(
          name === 'NotAllowedError'
            ? 'The microphone was refused: allow it for this page in the browser. Everything else works without.'
            : 'There is no microphone. Everything else works without.',
        );
      });
    const microphone = new Microphone(stream, context);
    try {
      await microphone.connect();
    } catch (error) {
      // What does not listen after all must not hold the microphone open.
      microphone.close();
      throw error;
    }
    return microphone;
  }

  /** From now on these keys are listened for. */
  begin(keys: readonly number[]): void {
    this.keys = keys;
    this.isFirst = true;
  }

  /** Notes between two moments of the context's clock. */
  heard(from: number, to: number): Promise<readonly HeardNote[]> {
    return this.door.heard(from, to);
  }

  close(): void {
    this.node?.disconnect();
    for (const track of this.stream.getTracks()) track.stop();
    this.worker.terminate();
  }

  private async connect(): Promise<void> {
    const { context, stream } = this;
    await context.resume();
    await context.audioWorklet.addModule('/hearing-worklet.js');
    const node = new AudioWorkletNode(context, 'hearing', { numberOfOutputs: 0, channelCount: 1 });
    node.port.onmessage = ({
      data,
    }: MessageEvent<{ readonly at: number; readonly samples: Float32Array<ArrayBuffer> }>) =>
      this.took(data.at, data.samples);
    context.createMediaStreamSource(stream).connect(node);
    this.node = node;
  }

  private took(at: number, samples: Float32Array<ArrayBuffer>): void {
    if (this.keys.length === 0) return;
    if (this.isFirst) void this.door.begin(this.context.sampleRate, this.keys, at);
    this.isFirst = false;
    void this.door.push(transfer(samples, [samples.buffer]));
  }
}

/** So long a worker takes at most to be fetched, milliseconds. */
const FETCHED = 5_000;

function hearingWorker(): Worker {
  return new Worker(new URL('./hearing.worker.ts', import.meta.url), { type: 'module' });
}
