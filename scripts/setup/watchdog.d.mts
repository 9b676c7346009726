export interface Look {
  readonly now: number;
  readonly answers: boolean;
  readonly used: number | undefined;
}

export function watchdog(started: number): { readonly look: (seen: Look) => string | undefined };
