import type { HTMLAttributes, ReactNode, RefObject } from 'react';
import type { CustomInstrument } from '../../core/instruments';
import type { Group } from '../../core/keys';
import type { SavedRecipe } from '../../core/work';
import type { Caret } from '../../core/score/edit';
import type { EngravedRow } from '../../engrave/engraver';
import type { LaneInfo, LaneSet } from '../../engrave/lanes';
import type { HelpGroup } from '../../ui/HelpSheet';
import type { Draws } from './useEngraving';
import type { WorkStore } from './workStore';

/** What of the studio comes with the page. */
export interface StudioPage {
  readonly groups: readonly { readonly id: string; readonly group: Group }[];
  readonly custom: readonly CustomInstrument[];
  /** Recipes saved under names. */
  readonly saved: readonly SavedRecipe[];
}

/** What every step of the bench is given. */
export interface Bench {
  readonly id: string;
  readonly store: WorkStore;
  readonly studio: StudioPage;
  /** The chosen group; `lanes` where the three lanes stand for themselves. */
  readonly groupId: string;
  readonly group: Group | undefined;
  readonly chooseGroup: (id: string) => void;
  /** Opens a file of the tune once everything is saved; `true` downloads it. */
  readonly openFile: (name: string, download: boolean) => void;
  /** The same of the chosen group's files. */
  readonly openGroupFile: (name: string, download: boolean) => void;
  /** Goes to another page of the tune once everything is saved. */
  readonly openPage: (page: string) => void;
  /** Scrolls a bar of the tune into view and picks it. */
  readonly showBar: (bar: number) => void;
}

/** What is known of the lanes as they are drawn; it may lag behind the keys by a moment. */
export interface Engraved {
  readonly infos: readonly LaneInfo[];
  readonly numbers: readonly number[];
  readonly draws: Draws;
}

/** What a step draws over, under and above the rows of music. */
interface RowLayers {
  /** Instead of the bars' buttons. */
  readonly over?: (row: EngravedRow) => ReactNode;
  /** Under the bars' buttons. */
  readonly under?: (row: EngravedRow) => ReactNode;
  /** A strip above the music. */
  readonly above?: (row: EngravedRow) => ReactNode;
  /** Opens a bar of the tune, by Enter or a double click. */
  readonly onOpen?: (bar: number) => void;
}

/** What a step puts into the frame while it is open. */
export interface ViewContent {
  readonly drawer: (engraved: Engraved) => ReactNode;
  /** In CSS pixels; 292 by default. */
  readonly drawerWidth?: number;
  /** Instead of the lanes. */
  readonly body?: (engraved: Engraved) => ReactNode;
  /** Above the lanes, in view while they are scrolled. */
  readonly head?: ReactNode;
  /** Below the lanes. */
  readonly foot?: ReactNode;
  readonly layers?: RowLayers;
  /** All by default. */
  readonly lanes?: LaneSet;
  /** The element around the rows, where a step takes keys of its own. */
  readonly surface?: HTMLAttributes<HTMLDivElement>;
  readonly surfaceRef?: RefObject<HTMLDivElement | null>;
  /** Where the step stands in the tune, where that is not the picked bar. */
  readonly caret?: () => Caret | undefined;
  /** In place of the picked bar in the status line. */
  readonly status?: ReactNode;
  /** After a click outside of the surface, keys go to it again. */
  readonly takeFocus?: () => void;
  /** When another step is opened. */
  readonly leave?: () => void;
}

/** A step of the bench: a hook of its own folder, and one line in the bench's table. */
export interface BenchView {
  /** Called at every turn, open or not: what a step has set up stays while another is open. */
  readonly use: (bench: Bench, isOpen: boolean) => ViewContent;
  readonly help?: readonly HelpGroup[];
}
