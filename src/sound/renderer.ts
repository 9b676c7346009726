import { SoundBankLoader, SpessaSynthProcessor } from 'spessasynth_core';
import type { PlayPlan } from './playPlan';

interface SynthEvent {
  readonly frame: number;
  readonly kind: 'off' | 'on';
  readonly channel: number;
  readonly key: number;
  readonly velocity: number;
}

/** Controllers of the MIDI standard: volume, pan, reverberation. */
const [VOLUME, PAN, REVERB] = [7, 10, 91] as const;
/** A small room's worth. */
const ROOM = 28;
/** Frames that the synthesiser takes at a time. */
const BLOCK = 128;
/** How long the last notes may ring on, seconds. */
const RING = 1.2;

/** Both channels of a stretch of sound. */
export interface Samples {
  readonly left: Float32Array<ArrayBuffer>;
  readonly right: Float32Array<ArrayBuffer>;
}

/** A file that should be a sound bank and is none. */
export class UnreadableBank extends Error {}

/** Turns plans into sound by the samples of a bank; no device is needed. */
export class SoundRenderer {
  private events: readonly SynthEvent[] = [];
  private next = 0;
  private frame = 0;
  private plan: PlayPlan | undefined;

  private constructor(
    private readonly synth: SpessaSynthProcessor,
    readonly rate: number,
  ) {}

  /**
   * @param bank a SoundFont file
   * @param rate frames a second
   * @param isDry without the sound of a room, which takes most of the time
   * @throws UnreadableBank with a sentence for the person when the file is no sound bank
   */
  static async start(bank: ArrayBuffer, rate: number, isDry = false): Promise<SoundRenderer> {
    const synth = new SpessaSynthProcessor(rate, {
      eventsEnabled: false,
      effectsEnabled: !isDry,
      chorusProcessor: noChorus(),
    });
    synth.soundBankManager.addSoundBank(bankOf(bank), 'main');
    await synth.processorInitialized;
    return new SoundRenderer(synth, rate);
  }

  /** Begins a plan; what was sounding ends. */
  load(plan: PlayPlan): void {
    this.plan = plan;
    this.synth.stopAllChannels(true);
    for (const { channel, program, volume, pan } of plan.voices) {
      this.synth.programChange(channel, program);
      this.synth.controllerChange(channel, VOLUME, volume);
      this.synth.controllerChange(channel, PAN, pan);
      this.synth.controllerChange(channel, REVERB, ROOM);
    }
    this.events = eventsOf(plan, this.rate);
    this.next = 0;
    this.frame = 0;
  }

  /** Makes one channel louder or softer at once. @param volume 0–127 */
  setVolume(channel: number, volume: number): void {
    this.synth.controllerChange(channel, VOLUME, Math.max(0, Math.min(127, Math.round(volume))));
  }

  /** Whether all has been given, with what rings on. A loop never ends. */
  get isOver(): boolean {
    return !this.plan || (!this.plan.loops && this.frame >= Math.ceil((this.plan.seconds + RING) * this.rate));
  }

  /** The next frames. */
  render(frames: number): Samples {
    const left = new Float32Array(frames);
    const right = new Float32Array(frames);
    const loopAt = this.plan?.loops ? Math.max(1, Math.round(this.plan.seconds * this.rate)) : Infinity;
    const loopTo = Math.round((this.plan?.lead ?? 0) * this.rate);
    for (let done = 0; done < frames;) {
      if (this.frame >= loopAt && loopTo < loopAt) {
        this.synth.stopAllChannels();
        this.frame = loopTo;
        this.next = this.events.findIndex(({ frame }) => frame >= loopTo);
        if (this.next < 0) this.next = this.events.length;
      }
      for (let event = this.events[this.next]; event && event.frame <= this.frame; event = this.events[this.next]) {
        if (event.kind === 'on') this.synth.noteOn(event.channel, event.key, event.velocity);
        else this.synth.noteOff(event.channel, event.key);
        this.next += 1;
      }
      const until = Math.min(
        (this.events[this.next]?.frame ?? Infinity) - this.frame,
        loopAt - this.frame,
        BLOCK,
        frames - done,
      );
      this.synth.process(left, right, done, until);
      done += until;
      this.frame += until;
    }
    return { left, right };
  }
}

/** Nothing is ever sent to a chorus; working one out over silence would cost a quarter of the time. */
function noChorus(): NonNullable<
  NonNullable<ConstructorParameters<typeof SpessaSynthProcessor>[1]>['chorusProcessor']
> {
  const settings = {
    level: 0,
    preLowpass: 0,
    feedback: 0,
    delay: 0,
    rate: 0,
    depth: 0,
    sendLevelToReverb: 0,
    sendLevelToDelay: 0,
  };
  return { ...settings, process: () => undefined, getSnapshot: () => settings };
}

function bankOf(file: ArrayBuffer): ReturnType<typeof SoundBankLoader.fromArrayBuffer> {
  try {
    return SoundBankLoader.fromArrayBuffer(file);
  } catch (error) {
    throw new UnreadableBank('The sound bank cannot be read: it should be a SoundFont file (.sf2 or .sf3).', {
      cause: error,
    });
  }
}

/** Ends before beginnings; a note that its own repetition would cut short ends where that begins. */
function eventsOf(plan: PlayPlan, rate: number): readonly SynthEvent[] {
  const events: SynthEvent[] = [];
  for (const { channel, notes } of plan.voices) {
    const ordered = notes.toSorted((a, b) => a.start - b.start);
    const following = new Map<number, number>();
    for (const note of ordered.toReversed()) {
      const end = Math.min(note.end, following.get(note.key) ?? Infinity);
      following.set(note.key, note.start);
      const [from, to] = [
        Math.round(note.start * rate),
        Math.max(Math.round(note.start * rate) + 1, Math.round(end * rate)),
      ];
      events.push(
        { frame: from, kind: 'on', channel, key: note.key, velocity: note.velocity },
        { frame: to, kind: 'off', channel, key: note.key, velocity: 0 },
      );
    }
  }
  return events.toSorted((a, b) => a.frame - b.frame || (a.kind === b.kind ? 0 : a.kind === 'off' ? -1 : 1));
}
