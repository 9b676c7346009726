/** What somebody is in a studio: each may all that those after it may. */
export const ROLES = ['owner', 'teacher', 'guest'] as const;
export type Role = (typeof ROLES)[number];

export function isRole(text: string): text is Role {
  return ROLES.some((role) => role === text);
}

/** Who is let in: a role and those above it, whoever comes, or whoever holds a pupil's link. */
export type Who = Role | 'anyone' | 'link';

export interface Rule {
  /** As the folders of `src/app` name it. */
  readonly address: string;
  /** Who may GET. */
  readonly read: Who;
  /** Who may do anything else; where nothing is said, as in reading. */
  readonly change?: Who;
  /** Methods with a rule of their own. */
  readonly methods?: Readonly<Partial<Record<string, Who>>>;
  /** There is nothing here where the program runs for one person alone. */
  readonly accountsOnly?: true;
}

/**
 * Who may come to which address. Every page and route of the program stands here: what does not is nobody's, and a test
 * holds the table against the folders.
 */
export const ACCESS: readonly Rule[] = [
  { address: '/', read: 'guest' },
  { address: '/today', read: 'teacher' },
  { address: '/pupils', read: 'teacher' },
  { address: '/pupils/[id]', read: 'teacher' },
  { address: '/pupils/[id]/lesson', read: 'teacher' },
  { address: '/groups', read: 'guest' },
  { address: '/groups/[id]/rehearsal', read: 'teacher' },
  { address: '/instruments', read: 'guest' },
  { address: '/instruments/[id]', read: 'guest' },
  { address: '/instruments/keys', read: 'guest' },
  { address: '/studio', read: 'teacher' },
  { address: '/tunes/[id]/[step]', read: 'guest' },
  { address: '/tunes/[id]/by-ear', read: 'guest' },
  { address: '/tunes/[id]/group/[group]', read: 'guest' },
  { address: '/tunes/[id]/shapes', read: 'guest' },
  { address: '/tunes/[id]/stand', read: 'guest' },

  { address: '/sign-in', read: 'anyone', accountsOnly: true },
  { address: '/welcome/[token]', read: 'anyone', accountsOnly: true },
  { address: '/reset/[token]', read: 'anyone', accountsOnly: true },
  { address: '/account', read: 'guest', accountsOnly: true },
  { address: '/people', read: 'owner', accountsOnly: true },
  { address: '/refused', read: 'anyone', accountsOnly: true },
  { address: '/link-ended', read: 'anyone' },
  { address: '/p/[token]', read: 'link' },
  { address: '/p/[token]/stand', read: 'link' },
  { address: '/p/[token]/log', read: 'link' },
  { address: '/p/[token]/sounds/[name]', read: 'link' },
  { address: '/h/[token]', read: 'link' },
  { address: '/h/[token]/stand', read: 'link' },
  { address: '/h/[token]/files/[name]', read: 'link' },

  { address: '/api/account/sign-in', read: 'anyone', accountsOnly: true },
  { address: '/api/account/sign-out', read: 'guest', accountsOnly: true },
  { address: '/api/account/forgotten', read: 'anyone', accountsOnly: true },
  { address: '/api/account/links', read: 'anyone', accountsOnly: true },
  { address: '/api/account/password', read: 'guest', accountsOnly: true },
  { address: '/api/account/second-factor', read: 'guest', accountsOnly: true },
  { address: '/api/account/devices/[id]', read: 'guest', accountsOnly: true },
  { address: '/api/account/studio', read: 'guest', accountsOnly: true },
  { address: '/api/people/invitations', read: 'owner', accountsOnly: true },
  { address: '/api/people/invitations/[id]', read: 'owner', accountsOnly: true },
  { address: '/api/people/settings', read: 'owner', accountsOnly: true },
  { address: '/api/people/studio', read: 'owner', accountsOnly: true },
  { address: '/api/people/[id]', read: 'owner', accountsOnly: true },
  { address: '/api/people/[id]/reset', read: 'owner', accountsOnly: true },

  { address: '/api/archive', read: 'owner' },
  { address: '/api/bin/[kind]/[id]', read: 'teacher', methods: { DELETE: 'owner' } },
  { address: '/api/drills', read: 'guest', change: 'teacher' },
  { address: '/api/drills/book.pdf', read: 'guest', change: 'teacher' },
  { address: '/api/groups', read: 'guest', change: 'teacher' },
  { address: '/api/groups/[id]', read: 'guest', change: 'teacher' },
  { address: '/api/groups/[id]/handouts', read: 'teacher' },
  { address: '/api/groups/[id]/pack/[name]', read: 'teacher' },
  { address: '/api/handouts/[id]', read: 'teacher' },
  { address: '/api/health', read: 'anyone' },
  { address: '/api/instruments/[id]', read: 'guest', change: 'teacher' },
  { address: '/api/licks', read: 'guest', change: 'teacher' },
  { address: '/api/names', read: 'teacher' },
  { address: '/api/pupils', read: 'teacher' },
  { address: '/api/pupils/[id]', read: 'teacher' },
  { address: '/api/pupils/[id]/apart', read: 'teacher' },
  { address: '/api/pupils/[id]/files/[name]', read: 'teacher' },
  { address: '/api/pupils/[id]/handouts', read: 'teacher' },
  { address: '/api/pupils/[id]/link', read: 'teacher' },
  { address: '/api/pupils/[id]/log', read: 'teacher' },
  { address: '/api/pupils/[id]/log/[entry]', read: 'teacher' },
  { address: '/api/pupils/[id]/pack/[name]', read: 'teacher' },
  { address: '/api/pupils/[id]/source', read: 'teacher' },
  { address: '/api/pupils/[id]/teacher', read: 'owner', accountsOnly: true },
  { address: '/api/pupils/from-group', read: 'teacher' },
  { address: '/api/pupils/join', read: 'teacher' },
  { address: '/api/recipes/[id]', read: 'guest', change: 'teacher' },
  { address: '/api/sets', read: 'guest', change: 'teacher' },
  { address: '/api/sounds', read: 'anyone', change: 'teacher' },
  { address: '/api/tunes', read: 'guest', change: 'teacher' },
  { address: '/api/tunes/[id]', read: 'guest', change: 'teacher' },
  { address: '/api/tunes/[id]/files/[name]', read: 'guest', change: 'teacher' },
  { address: '/api/tunes/[id]/groups/[group]/[name]', read: 'guest', change: 'teacher' },
  { address: '/api/tunes/[id]/groups/[group]/together/[name]', read: 'guest', change: 'teacher' },
  { address: '/api/tunes/[id]/history', read: 'guest', change: 'teacher' },
  { address: '/api/tunes/[id]/history/[revision]', read: 'guest', change: 'teacher' },
  { address: '/api/tunes/[id]/history/[revision]/bars', read: 'guest', change: 'teacher' },
  { address: '/api/tunes/[id]/restore', read: 'teacher' },
  { address: '/api/tunes/new', read: 'teacher' },
];

interface Pattern {
  readonly rule: Rule;
  readonly segments: readonly string[];
}

const segmentsOf = (path: string) => path.split('/').filter((segment) => segment !== '');
const isOpen = (segment: string) => segment.startsWith('[');

/** By how many segments they have; what is named before what is open. */
const PATTERNS: readonly Pattern[] = ACCESS.map((rule) => ({ rule, segments: segmentsOf(rule.address) })).toSorted(
  (a, b) => openPlaces(a) - openPlaces(b),
);

function openPlaces({ segments }: Pattern): number {
  return segments.filter(isOpen).length;
}

/** The rule for a path, without its query; nothing where the program has nothing there. */
export function ruleFor(path: string): Rule | undefined {
  const asked = segmentsOf(path);
  return PATTERNS.find(
    ({ segments }) =>
      segments.length === asked.length && segments.every((segment, k) => isOpen(segment) || segment === asked[k]),
  )?.rule;
}

/** Who may ask by this method. */
export function whoMay(rule: Rule, method: string): Who {
  const isReading = method === 'GET' || method === 'HEAD' || method === 'OPTIONS';
  return rule.methods?.[method] ?? (isReading ? rule.read : (rule.change ?? rule.read));
}

/** @param wanted a role that is asked for */
export function mayAs(role: Role, wanted: Role): boolean {
  return ROLES.indexOf(role) <= ROLES.indexOf(wanted);
}

/** What the program hands out to everybody: its own code, pictures and fonts. They tell nothing of a studio. */
export function isProgramFile(path: string): boolean {
  return path.startsWith('/_next/static/') || PUBLIC.includes(path);
}

const PUBLIC: readonly string[] = ['/icon.svg', '/hearing-worklet.js', '/stand-sw.js', '/404'];
