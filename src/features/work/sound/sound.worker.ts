import { expose, transfer } from 'comlink';
import type { Work } from '../../../core/work';
import { planPlaying, type Mixed, type PlayPlan, type PlayWishes } from '../../../sound/playPlan';
import { patientFetch } from '../patientFetch';
import { SoundRenderer, type Samples } from '../../../sound/renderer';

let renderer: SoundRenderer | undefined;
let starting: Promise<SoundRenderer> | undefined;

async function started(rate: number): Promise<SoundRenderer> {
  if (renderer && renderer.rate === rate) return renderer;
  starting ??= patientFetch('/api/sounds')
    .then(async (answer) => {
      if (answer.ok) return SoundRenderer.start(await answer.arrayBuffer(), rate);
      const refusal = (await answer.json().catch(() => ({}))) as { readonly messages?: readonly string[] };
      throw new Error(refusal.messages?.[0] ?? 'The sounds could not be loaded.');
    })
    .finally(() => {
      starting = undefined;
    });
  renderer = await starting;
  return renderer;
}

/** Channels of those who play now, with how loud they usually are. */
const mixed = new Map<Mixed, readonly { readonly channel: number; readonly usual: number }[]>();
/** Of who was silent when it began. */
const USUAL = 90;

/** What the page needs to know of a plan; its notes stay here. */
export type PagePlan = Omit<PlayPlan, 'voices'>;

/** The worker's door: sound is made here, so that the page never stutters over it. */
const door = {
  /** Fetches the sounds and makes ready to play. @throws Error with a word for the person where there are none */
  async warm(rate: number): Promise<void> {
    await started(rate);
  },
  async begin(work: Work, wishes: PlayWishes, rate: number): Promise<PagePlan> {
    const ready = await started(rate);
    const plan = planPlaying(work, wishes);
    ready.load(plan);
    mixed.clear();
    for (const { who, channel, volume } of plan.voices) {
      const share = wishes.volumes?.[who] ?? 1;
      mixed.set(who, [...(mixed.get(who) ?? []), { channel, usual: share > 0 ? volume / share : USUAL }]);
    }
    const { voices: _, ...page } = plan;
    return page;
  },
  /** Makes one of those who play louder or softer, 0 to 1 of what is usual. */
  volume(who: Mixed, share: number): void {
    for (const { channel, usual } of mixed.get(who) ?? []) renderer?.setVolume(channel, usual * share);
  },
  /** The next stretch, or nothing when all has been given. */
  next(frames: number): Samples | undefined {
    if (!renderer || renderer.isOver) return undefined;
    const samples = renderer.render(frames);
    return transfer(samples, [samples.left.buffer, samples.right.buffer]);
  },
};
export type SoundDoor = typeof door;

expose(door);
