'use client';

import { wrap, type Remote } from 'comlink';
import { createStore, type StoreApi } from 'zustand';
import type { Work } from '../../../core/work';
import type { LaneMark, Mixed, PlayWishes } from '../../../sound/playPlan';
import type { PagePlan, SoundDoor } from './sound.worker';

export type PlayerState =
  | { readonly kind: 'still' }
  /** The sounds are being fetched or the first of them made. */
  | { readonly kind: 'waking' }
  | { readonly kind: 'playing'; readonly plan: PagePlan }
  | { readonly kind: 'failed'; readonly message: string };

/** Seconds of sound made at a time; the first stretch is short, so that it begins at once. */
const FIRST = 0.15;
const STRETCH = 0.4;
/** So much is always made ahead of what is heard. */
const AHEAD = 0.9;
/** Between the asking and the first sound. */
const LEAD_IN = 0.08;

/** What is lit and where the music stands at a moment. */
export interface Moment {
  readonly lit: readonly LaneMark[];
  /** Index of the bar on the page; none while it is counted in. */
  readonly bar: number | undefined;
  /** How much of that bar has passed, 0 to 1. */
  readonly share: number;
}

/** Plays what the worker renders through the browser's sound output, a stretch at a time. */
export class Player {
  readonly store: StoreApi<PlayerState> = createStore<PlayerState>(() => ({ kind: 'still' }));
  private context: AudioContext | undefined;
  private gain: GainNode | undefined;
  private volume = 0.8;
  private door: Remote<SoundDoor> | undefined;
  private worker: Worker | undefined;
  private sources = new Set<AudioBufferSourceNode>();
  /** Counts the times playing began or ended: what belongs to an older one is dropped. */
  private turn = 0;
  private startedAt = 0;
  private plan: PagePlan | undefined;

  /** Plays; what was playing ends. Must come from a person's gesture, or browsers stay silent. */
  async play(work: Work, wishes: PlayWishes): Promise<void> {
    this.silence();
    const mine = (this.turn += 1);
    this.store.setState({ kind: 'waking' }, true);
    try {
      const context = this.opened();
      await context.resume();
      const plan = await this.doorTo().begin(work, wishes, context.sampleRate);
      if (mine !== this.turn) return;
      this.plan = plan;
      let made = await this.schedule(context.currentTime + LEAD_IN, FIRST, context);
      if (mine !== this.turn) return;
      this.startedAt = made.from;
      this.store.setState({ kind: 'playing', plan }, true);
      while (mine === this.turn && made.goesOn) {
        if (made.until - context.currentTime > AHEAD) await new Promise((done) => setTimeout(done, 60));
        else made = await this.schedule(made.until, STRETCH, context);
      }
      while (mine === this.turn && context.currentTime < made.until) await new Promise((done) => setTimeout(done, 100));
      if (mine === this.turn) this.stop();
    } catch (error) {
      if (mine !== this.turn) return;
      this.silence();
      this.store.setState(
        { kind: 'failed', message: error instanceof Error ? error.message : 'This browser cannot make sound.' },
        true,
      );
    }
  }

  /** Fetches the worker that makes the sound, before it is needed. */
  wake(): void {
    this.doorTo();
  }

  stop(): void {
    this.turn += 1;
    this.silence();
    this.store.setState({ kind: 'still' }, true);
  }

  close(): void {
    this.stop();
    this.worker?.terminate();
    void this.context?.close();
    this.context = undefined;
  }

  /** 0 to 1. */
  setVolume(volume: number): void {
    this.volume = volume;
    if (this.gain && this.context) this.gain.gain.setTargetAtTime(volume * volume, this.context.currentTime, 0.02);
  }

  /**
   * One of those who play louder or softer while it sounds, 0 to 1 of what is usual; what is made already sounds on.
   */
  setShare(who: Mixed, share: number): void {
    if (this.door) void this.door.volume(who, share);
  }

  /** What it plays through, for who listens beside it: one clock for both. Must first come from a person's gesture. */
  output(): AudioContext {
    return this.opened();
  }

  /** The moment of the output's clock at which the music begins, after the count-in; none while nothing plays. */
  begins(): number | undefined {
    return this.plan && this.store.getState().kind === 'playing' ? this.startedAt + this.plan.lead : undefined;
  }

  /** What sounds now, a loop counted round. */
  moment(): Moment | undefined {
    const { plan, context } = this;
    if (!plan || !context || this.store.getState().kind !== 'playing') return undefined;
    const passed = context.currentTime - this.startedAt - (context.outputLatency || 0);
    const round = plan.seconds - plan.lead;
    const now = plan.loops && passed > plan.seconds && round > 0 ? plan.lead + ((passed - plan.lead) % round) : passed;
    if (now < plan.lead) return { lit: [], bar: undefined, share: 0 };
    const here = plan.bars.findLast(({ start }) => start <= now);
    return {
      lit: plan.marks.filter(({ start, end }) => start <= now && now < end),
      bar: here?.bar,
      share: here ? Math.min(1, (now - here.start) / Math.max(0.001, here.seconds)) : 0,
    };
  }

  /** The beat that sounds: how much of it has passed, 0 to 1, and whether it is a bar's first; in the count-in none. */
  beat(): { readonly share: number; readonly isFirst: boolean } | undefined {
    const { plan } = this;
    const now = this.moment();
    if (!plan || now?.bar === undefined) return undefined;
    const beats = plan.beats[now.bar] ?? 1;
    const at = now.share * beats;
    return { share: at % 1, isFirst: Math.floor(at) === 0 };
  }

  private opened(): AudioContext {
    if (!this.context) {
      this.context = new AudioContext({ latencyHint: 'playback' });
      this.gain = this.context.createGain();
      this.gain.gain.value = this.volume * this.volume;
      this.gain.connect(this.context.destination);
    }
    return this.context;
  }

  private doorTo(): Remote<SoundDoor> {
    if (!this.door) {
      this.worker = new Worker(new URL('./sound.worker.ts', import.meta.url), { type: 'module' });
      this.door = wrap<SoundDoor>(this.worker);
    }
    return this.door;
  }

  /** Puts the next stretch at a time, later where that has passed. */
  private async schedule(
    at: number,
    seconds: number,
    context: AudioContext,
  ): Promise<{ readonly from: number; readonly until: number; readonly goesOn: boolean }> {
    const mine = this.turn;
    const samples = await this.doorTo().next(Math.round(seconds * context.sampleRate));
    if (!samples || mine !== this.turn || !this.gain) return { from: at, until: at, goesOn: false };
    const buffer = context.createBuffer(2, samples.left.length, context.sampleRate);
    buffer.copyToChannel(samples.left, 0);
    buffer.copyToChannel(samples.right, 1);
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(this.gain);
    // A machine too busy to keep up plays late rather than two stretches at once; what is lit goes along.
    const from = Math.max(at, context.currentTime + 0.02);
    this.startedAt += from - at;
    source.start(from);
    this.sources.add(source);
    source.onended = () => this.sources.delete(source);
    return { from, until: from + buffer.duration, goesOn: true };
  }

  private silence(): void {
    for (const source of this.sources) source.stop();
    this.sources.clear();
    this.plan = undefined;
  }
}
