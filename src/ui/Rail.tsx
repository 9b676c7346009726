'use client';

import { Archive, BookOpen, CalendarDays, Guitar, KeyRound, UserRound, Users } from 'lucide-react';
import type { ReactNode } from 'react';
import Link from 'next/link';
import { HookSign } from './HookSign';
import { useReady } from './useReady';
import { useWhoAsks } from './WhoAsks';

/** The rooms of the program: a rail at the left, on a narrow screen a bar at the foot. */
export function Rail({
  here,
  onHelp,
}: {
  readonly here: 'shelf' | 'bench' | 'today' | 'pupils' | 'groups' | 'instruments' | 'studio' | 'people' | 'account';
  readonly onHelp: () => void;
}) {
  useReady();
  const who = useWhoAsks();
  const isGuest = who?.role === 'guest';
  return (
    <nav
      aria-label="Rooms"
      className="on-dark no-print flex shrink-0 items-center bg-reed text-[12px] text-reed-pale max-[899px]:px-2 min-[900px]:w-14 min-[900px]:flex-col min-[900px]:py-3"
    >
      <Link
        href="/"
        aria-label="Reed Hook, to the shelf"
        className="flex size-9 shrink-0 items-center justify-center rounded max-[899px]:mr-1 min-[900px]:mb-5"
      >
        <HookSign size={30} />
      </Link>
      <Room href="/" name="Shelf" isHere={here === 'shelf'}>
        <BookOpen size={18} aria-hidden="true" />
      </Room>
      {!isGuest && (
        <>
          <Room href="/today" name="Today" isHere={here === 'today'}>
            <CalendarDays size={18} aria-hidden="true" />
          </Room>
          <Room href="/pupils" name="Pupils" isHere={here === 'pupils'}>
            <UserRound size={18} aria-hidden="true" />
          </Room>
        </>
      )}
      <Room href="/groups" name="Groups" isHere={here === 'groups'}>
        <Users size={18} aria-hidden="true" />
      </Room>
      <Room href="/instruments" name="Charts" isHere={here === 'instruments'}>
        <Guitar size={18} aria-hidden="true" />
      </Room>
      {!isGuest && (
        <Room href="/studio" name="Studio" isHere={here === 'studio'}>
          <Archive size={18} aria-hidden="true" />
        </Room>
      )}
      {who?.role === 'owner' && (
        <Room href="/people" name="People" isHere={here === 'people'}>
          <KeyRound size={18} aria-hidden="true" />
        </Room>
      )}
      <button
        type="button"
        onClick={onHelp}
        aria-label="Help: keys"
        className="flex size-9 shrink-0 items-center justify-center rounded text-base hover:bg-reed-soft hover:text-white max-[899px]:ml-auto min-[900px]:mt-auto"
      >
        ?
      </button>
      {who && (
        <Link
          href="/account"
          aria-label={`${initials(who.name)}: your account, ${who.name}, ${who.role} of ${who.studio}`}
          aria-current={here === 'account' ? 'page' : undefined}
          className={`flex size-9 shrink-0 items-center justify-center rounded-full border text-[13px] font-semibold hover:text-white min-[900px]:mt-2 ${here === 'account' ? 'border-cane-bright bg-reed-soft text-white' : 'border-reed-pale'}`}
        >
          {initials(who.name)}
        </Link>
      )}
    </nav>
  );
}

function Room({
  href,
  name,
  isHere,
  children,
}: {
  readonly href: string;
  readonly name: string;
  readonly isHere: boolean;
  readonly children: ReactNode;
}) {
  return (
    <Link
      href={href}
      aria-current={isHere ? 'page' : undefined}
      className={`flex min-w-0 flex-col items-center gap-0.5 px-2 py-2 text-center sm:px-3 leading-4 max-[899px]:border-t-[3px] min-[900px]:w-full min-[900px]:border-l-[3px] min-[900px]:px-0 ${isHere ? 'border-cane-bright bg-reed-soft text-white' : 'border-transparent hover:text-white'}`}
    >
      {children}
      {name}
    </Link>
  );
}

/** Two letters at most. */
function initials(name: string): string {
  const [first = '', ...others] = name.split(/\s+/).filter((one) => one !== '');
  return `${[...first][0] ?? ''}${[...(others.at(-1) ?? '')][0] ?? ''}`.toUpperCase();
}
