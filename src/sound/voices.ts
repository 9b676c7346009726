import type { Instrument } from '../core/instruments';

/*
 * Which sound of the bank stands for an instrument. Numbers are those of General MIDI Level 1 (MIDI Manufacturers
 * Association, 1991), counted from 0. Where the list has no such instrument, its nearest relative stands in: the tenor
 * horn for the horn, the tin whistle for the whistle, the flugelhorn and cornet for the trumpet.
 */
const VOICES: Readonly<Record<string, number>> = {
  piccolo: 72,
  flute: 73,
  'alto-flute': 73,
  'recorder-sopranino': 74,
  'recorder-descant': 74,
  'recorder-treble': 74,
  'recorder-tenor': 74,
  'recorder-bass': 74,
  'tin-whistle-d': 78,
  oboe: 68,
  'english-horn': 69,
  'clarinet-eb': 71,
  'clarinet-bb': 71,
  'clarinet-a': 71,
  'bass-clarinet': 71,
  'bass-clarinet-bc': 71,
  bassoon: 70,
  'soprano-sax': 64,
  'alto-sax': 65,
  'tenor-sax': 66,
  'baritone-sax': 67,
  cornet: 56,
  'trumpet-bb': 56,
  'trumpet-c': 56,
  flugelhorn: 56,
  'horn-f': 60,
  'tenor-horn': 60,
  'baritone-tc': 57,
  'baritone-bc': 57,
  'euphonium-tc': 58,
  'euphonium-bc': 58,
  trombone: 57,
  'trombone-tenor-clef': 57,
  'trombone-tc': 57,
  'bass-eb': 58,
  'bass-bb': 58,
  tuba: 58,
  violin: 40,
  viola: 41,
  cello: 42,
  'double-bass': 43,
  guitar: 24,
  'bass-guitar': 33,
  mandolin: 25,
  ukulele: 24,
  'tenor-banjo': 105,
  melodica: 21,
  harmonica: 22,
  glockenspiel: 9,
  xylophone: 13,
  vibraphone: 11,
  marimba: 12,
  'voice-soprano': 52,
  'voice-alto': 52,
  'voice-tenor': 53,
  'voice-bass': 53,
};

/** For an instrument of the studio's own, by what it is like. */
const FAMILY_VOICES: Readonly<Record<Instrument['family'], number>> = {
  woodwind: 73,
  brass: 56,
  strings: 40,
  fretted: 24,
  percussion: 12,
  'free-reed': 22,
  voice: 52,
};

/** The tune itself, which nobody plays yet: a clear sound that is none of the usual players'. */
export const TUNE_VOICE = 79;
export const SECOND_VOICE = 75;
/** Backing: a plucked double bass and a piano. */
export const BASS_VOICE = 32;
export const CHORD_VOICE = 0;
/** On the drum channel: high and low wood block. */
export const CLICK_HIGH = 76;
export const CLICK_LOW = 77;

/** The General MIDI program for an instrument. */
export function voiceOf({ id, family }: Pick<Instrument, 'id' | 'family'>): number {
  return VOICES[id] ?? FAMILY_VOICES[family];
}
