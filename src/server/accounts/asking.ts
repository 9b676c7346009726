import { AsyncLocalStorage } from 'node:async_hooks';
import { z } from 'zod';
import type { Role } from './access';

/** What an owner decided for a studio. */
export interface StudioSettings {
  /** Owners must have a second factor. */
  readonly secondFactor: boolean;
  /** Teachers see only the tunes and groups that they made. */
  readonly ownWorksOnly: boolean;
}

export const settingsSchema = z.strictObject({ secondFactor: z.boolean(), ownWorksOnly: z.boolean() });
const NO_SETTINGS: StudioSettings = { secondFactor: false, ownWorksOnly: false };

/** A studio's settings as they are stored; what cannot be read is as it was at first. */
export function settingsOf(stored: unknown): StudioSettings {
  if (typeof stored !== 'string') return NO_SETTINGS;
  try {
    return settingsSchema.safeParse(JSON.parse(stored)).data ?? NO_SETTINGS;
  } catch (error) {
    if (error instanceof SyntaxError) return NO_SETTINGS;
    throw error;
  }
}

/** Somebody who is signed in, and what they are in the studio that they have open. */
export interface SignedIn {
  readonly kind: 'person';
  readonly person: string;
  readonly name: string;
  readonly email: string;
  readonly hasSecondFactor: boolean;
  readonly studio: string;
  readonly studioName: string;
  readonly settings: StudioSettings;
  readonly role: Role;
  readonly session: string;
}

/** Whose sight a request has: of their own tunes and pupils, or of all, by their role and what the owner decided. */
export type Sight = Pick<SignedIn, 'person' | 'role' | 'settings'>;

/** Whoever comes by a link sees what those may see who made it; all, where there were no accounts then. */
interface ByLink {
  readonly studio: string;
  readonly link: string;
  readonly maker?: Sight;
}

/** Who asks: the one person of a program that runs alone, somebody signed in, a pupil by their link, or nobody known. */
export type Asking =
  | { readonly kind: 'alone'; readonly studio: string }
  | SignedIn
  | (ByLink & { readonly kind: 'pupil'; readonly pupil: string })
  /** Whoever has the link of a pack that was handed out. */
  | (ByLink & { readonly kind: 'handout'; readonly handout: string })
  | { readonly kind: 'nobody' };

/** One request. */
export interface Asked {
  readonly asking: Asking;
  /** Whence it came, as far as proxies that are trusted tell. */
  readonly address: string;
  /** By what whoever sends it knows it: sent again, since no answer came, it is still the same. */
  readonly sending?: string;
  /** It could not be answered now, and can later: set while it is answered. */
  comeAgain?: true;
}

/** Until there are accounts, everybody works in this studio; it becomes the first owner's. */
export const FIRST_STUDIO = 'net-loft';

/** On the global object: the door and the program are bundles of their own, and share it. */
const holder = globalThis as typeof globalThis & { reedHookAsked?: AsyncLocalStorage<Asked> };
const requests = (holder.reedHookAsked ??= new AsyncLocalStorage<Asked>());

/** Runs work as what somebody asked for. */
export function within<Result>(asked: Asked, work: () => Result): Result {
  return requests.run(asked, work);
}

/** @throws Error outside of a request: whatever needs to know who asks must not guess */
export function currentlyAsked(): Asked {
  const asked = requests.getStore();
  if (!asked) throw new Error('nobody asks: this runs outside of a request');
  return asked;
}

/** Who is signed in; nothing where the program runs for one person alone. @throws Error where nobody is */
export function currentPerson(): SignedIn | undefined {
  const { asking } = currentlyAsked();
  if (asking.kind === 'alone') return undefined;
  if (asking.kind !== 'person') throw new Error('nobody is signed in');
  return asking;
}

/** Who is signed in, as screens show it; nothing where nobody is, or the program runs for one person alone. */
export function whoAsks(): { readonly name: string; readonly studio: string; readonly role: Role } | undefined {
  const asking = requests.getStore()?.asking;
  return asking?.kind === 'person' ? { name: asking.name, studio: asking.studioName, role: asking.role } : undefined;
}

/** Who is signed in, by their id; nothing for whoever is not, and where the program runs for one person alone. */
export function personAsking(): string | undefined {
  const { asking } = currentlyAsked();
  return asking.kind === 'person' ? asking.person : undefined;
}

/** By what whoever sends the present request knows it; nothing where they do not say, and outside of a request. */
export function currentSending(): string | undefined {
  return requests.getStore()?.sending;
}

/** The studio for which something is done; nothing outside of a request, and for whoever is not known. */
export function studioAsked(): string | undefined {
  const asking = requests.getStore()?.asking;
  return asking === undefined || asking.kind === 'nobody' ? undefined : asking.studio;
}

/** Notes that what is asked for now cannot be answered for a moment, so that it is told as that. */
export function noteComeAgain(): void {
  const asked = requests.getStore();
  if (asked) asked.comeAgain = true;
}

/** Whether the program has accounts: it was given the address under which it is asked for. */
export function hasAccounts(): boolean {
  return publicOrigin() !== undefined;
}

/** The address under which it is asked for, as `https://host`; nothing where it runs alone. Checked at the start. */
export function publicOrigin(): string | undefined {
  return process.env['REED_ORIGIN'] || undefined;
}
