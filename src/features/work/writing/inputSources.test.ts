import { key, tuneOf } from '../../../../tests/given';
import { chordSuggestions, chordTyped } from './chordSuggestions';
import { midiDoors, SIMULATED_DOORS } from './inputSources';

describe('chords that may be meant by the first letters', () => {
  const TUNE = tuneOf('"Am7"A2 c2 "D7"d4 | "Am7"c4 "Gmaj7"B4 |]', 'M:4/4\nL:1/8\nK:G');

  test('those of the tune come first, the most frequent of them before the others', () => {
    expect(chordSuggestions('', TUNE, key('G')).slice(0, 3)).toEqual(['Am7', 'D7', 'Gmaj7']);
    expect(chordSuggestions('A', TUNE, key('G'))[0]).toBe('Am7');
  });

  test('then those of the key, then other kinds on the root that was typed; never what stands there already', () => {
    const offered = chordSuggestions('F#', TUNE, key('G'));
    expect(offered[0]).toMatch(/^F#(°|m7b5)/);
    expect(offered).toHaveLength(8);
    expect(chordSuggestions('Am7', TUNE, key('G'))).not.toContain('Am7');
  });

  test('nothing is offered for what begins no chord', () => {
    expect(chordSuggestions('H', TUNE, key('G'))).toEqual([]);
  });

  test.each([
    ['am7', 'Am7'],
    [' bb ', 'Bb'],
    ['Dm', 'Dm'],
    ['', ''],
  ])('“%s” is taken as “%s”', (typed, taken) => expect(chordTyped(typed)).toBe(taken));
});

describe('a keyboard', () => {
  afterEach(() => jest.useRealTimers());

  test('that is simulated plays its take to the end, in time, and then says so', () => {
    jest.useFakeTimers();
    const heard: number[] = [];
    const ended = jest.fn();
    SIMULATED_DOORS[0]?.open((number) => heard.push(number), ended);
    jest.advanceTimersByTime(140 * 5);
    expect(heard).toEqual([60, 62, 64, 65, 67]);
    expect(ended).not.toHaveBeenCalled();
    jest.runAllTimers();
    expect([heard.length, ended.mock.calls.length]).toEqual([9, 1]);
  });

  test('that is closed plays no more', () => {
    jest.useFakeTimers();
    const heard: number[] = [];
    const close = SIMULATED_DOORS[1]?.open((number) => heard.push(number));
    jest.advanceTimersByTime(200);
    close?.();
    jest.runAllTimers();
    expect(heard).toEqual([67, 70]);
  });

  const given = (requestMIDIAccess?: () => Promise<unknown>) =>
    Object.defineProperty(globalThis, 'navigator', { configurable: true, value: { requestMIDIAccess } });

  test('of the real kind is heard when keys go down, not when they go up, until it is closed', async () => {
    let listener: ((event: { data: Uint8Array }) => void) | undefined;
    const input = {
      id: '7',
      name: null,
      addEventListener: (_: string, listen: typeof listener) => (listener = listen),
      removeEventListener: () => (listener = undefined),
    };
    given(() => Promise.resolve({ inputs: new Map([['7', input]]) }));
    const [door] = await midiDoors();
    expect([door?.id, door?.name]).toEqual(['midi-7', 'MIDI keyboard']);
    const heard: number[] = [];
    const close = door?.open((number) => heard.push(number));
    for (const bytes of [
      [0x90, 60, 80],
      [0x90, 60, 0],
      [0x80, 60, 64],
      [0x93, 67, 1],
      [0xb0, 64, 127],
    ])
      listener?.({ data: Uint8Array.from(bytes) });
    expect(heard).toEqual([60, 67]);
    close?.();
    expect(listener).toBeUndefined();
  });

  test('is not there where the browser has none or the person says no; any other fault is a fault', async () => {
    given();
    expect(await midiDoors()).toEqual([]);
    given(() => Promise.reject(new DOMException('no')));
    expect(await midiDoors()).toEqual([]);
    given(() => Promise.reject(new Error('broken')));
    await expect(midiDoors()).rejects.toThrow('broken');
  });
});
