import { audioToWav } from 'spessasynth_core';
import { createMp3Encoder } from 'wasm-media-encoders';
import { joinBytes } from '../core/joinBytes';
import type { PlayPlan } from './playPlan';
import { SoundRenderer } from './renderer';

/** Frames a second of sound files. */
const FILE_RATE = 44_100;
export const SOUND_FORMATS = ['wav', 'mp3'] as const;
export type SoundFormat = (typeof SOUND_FORMATS)[number];

/** Quality of variable bit rate: 2 is about 190 kbit/s, beyond which few hear a difference. */
const MP3_QUALITY = 2;
/** What is rendered and encoded at a time, seconds: memory stays level however long the music is. */
const AT_ONCE = 5;
/** What rings on is kept for so long, seconds, and everything below this loudness at the end is cut. */
const SILENCE = 0.0005;

/** Who needs no room to be heard in. */
const DRY = ['bass', 'chords', 'click'] as const;

export interface SoundFile {
  readonly data: Uint8Array;
  readonly seconds: number;
  readonly channels: 2;
  readonly sampleRate: number;
}

/**
 * Renders a plan to a file.
 * @param bank a SoundFont file
 * @param signal ends it between two stretches
 * @throws Error when it is ended, or the bank cannot be read
 */
export async function soundFile(
  plan: PlayPlan,
  bank: ArrayBuffer,
  format: SoundFormat,
  { signal, onProgress }: { readonly signal?: AbortSignal; readonly onProgress?: (share: number) => void } = {},
): Promise<SoundFile> {
  // A backing is played over in a room of the player's own, and sounds clearer without another.
  const isDry = plan.voices.every(({ who }) => DRY.some((one) => one === who));
  const renderer = await SoundRenderer.start(bank, FILE_RATE, isDry);
  renderer.load({ ...plan, loops: false });
  const pieces: { readonly left: Float32Array; readonly right: Float32Array }[] = [];
  const encoder = format === 'mp3' ? await createMp3Encoder() : undefined;
  encoder?.configure({ sampleRate: FILE_RATE, channels: 2, vbrQuality: MP3_QUALITY });
  const encoded: Uint8Array[] = [];
  const music = Math.ceil(plan.seconds * FILE_RATE);
  let frames = 0;
  while (!renderer.isOver) {
    signal?.throwIfAborted();
    const rendered = renderer.render(AT_ONCE * FILE_RATE);
    const used = usedFrames(rendered, renderer.isOver, music - frames);
    const piece = { left: rendered.left.subarray(0, used), right: rendered.right.subarray(0, used) };
    frames += used;
    if (encoder) encoded.push(encoder.encode([piece.left, piece.right]).slice());
    else pieces.push(piece);
    onProgress?.(Math.min(1, frames / Math.max(1, music)));
    if (!renderer.isOver) await new Promise((done) => setTimeout(done, 0));
  }
  if (encoder) encoded.push(encoder.finalize().slice());
  const data = encoder ? joinBytes(encoded) : wav(pieces, frames);
  return { data, seconds: frames / FILE_RATE, channels: 2, sampleRate: FILE_RATE };
}

/**
 * All of a stretch, but of the last one only what is music or can still be heard, two seconds after the music at most.
 */
function usedFrames(
  { left, right }: { readonly left: Float32Array; readonly right: Float32Array },
  isLast: boolean,
  music: number,
): number {
  if (!isLast) return left.length;
  let end = left.length;
  while (end > Math.max(0, music) && Math.abs(left[end - 1] ?? 0) < SILENCE && Math.abs(right[end - 1] ?? 0) < SILENCE)
    end -= 1;
  return Math.min(end, Math.max(0, music) + 2 * FILE_RATE);
}

function wav(
  pieces: readonly { readonly left: Float32Array; readonly right: Float32Array }[],
  frames: number,
): Uint8Array {
  const [left, right] = [new Float32Array(frames), new Float32Array(frames)];
  let at = 0;
  for (const piece of pieces) {
    left.set(piece.left, at);
    right.set(piece.right, at);
    at += piece.left.length;
  }
  return new Uint8Array(audioToWav([left, right], FILE_RATE, { normalizeAudio: false }));
}
