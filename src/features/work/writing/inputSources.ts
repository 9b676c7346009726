'use client';

/** Where keys of a keyboard come in, whatever device they are pressed on. */
export interface KeyDoor {
  readonly id: string;
  readonly name: string;
  /** Listens until the returned function is called. `number` is 0–127, 60 is middle C. */
  readonly open: (onKey: (number: number) => void, onEnd?: () => void) => () => void;
}

interface Take {
  readonly name: string;
  /** Key numbers with milliseconds from the one before. */
  readonly keys: readonly (readonly [number: number, after: number])[];
}

/** What the simulated keyboard plays: takes of our own, for trying out without a device and for the tests. */
const TAKES: readonly Take[] = [
  {
    name: 'five notes up and down',
    keys: [60, 62, 64, 65, 67, 65, 64, 62, 60].map((number) => [number, 140] as const),
  },
  {
    name: 'a call with an answer',
    keys: [
      [67, 0],
      [70, 180],
      [72, 180],
      [67, 180],
      [65, 360],
      [63, 180],
      [60, 180],
    ],
  },
];

/** A keyboard that is not there: it plays a take back into the same door as a real one. */
export const SIMULATED_DOORS: readonly KeyDoor[] = TAKES.map(({ name, keys }, index) => ({
  id: `simulated-${index}`,
  name: `Simulated: ${name}`,
  open: (onKey, onEnd) => {
    const timers: ReturnType<typeof setTimeout>[] = [];
    let at = 0;
    keys.forEach(([number, after], k) => {
      at += after;
      timers.push(
        setTimeout(() => {
          onKey(number);
          if (k === keys.length - 1) onEnd?.();
        }, at),
      );
    });
    return () => timers.forEach(clearTimeout);
  },
}));

/** The MIDI inputs that the browser knows; none where it has no Web MIDI or the person says no. */
export async function midiDoors(): Promise<readonly KeyDoor[]> {
  if (typeof navigator.requestMIDIAccess !== 'function') return [];
  try {
    const access = await navigator.requestMIDIAccess({ sysex: false });
    return [...access.inputs.values()].map((input): KeyDoor => ({
      id: `midi-${input.id}`,
      name: input.name ?? 'MIDI keyboard',
      open: (onKey) => {
        const listen = (event: MIDIMessageEvent) => {
          const [status = 0, number = 0, velocity = 0] = event.data ?? [];
          // A note-on with velocity 0 is a note-off (MIDI 1.0).
          if (status >> 4 === 0x9 && velocity > 0) onKey(number);
        };
        input.addEventListener('midimessage', listen);
        return () => input.removeEventListener('midimessage', listen);
      },
    }));
  } catch (error) {
    // Refused by the person or the browser: then there is no device.
    if (error instanceof DOMException) return [];
    throw error;
  }
}
