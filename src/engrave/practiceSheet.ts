import type { Instrument } from '../core/instruments';
import { restMinutes } from '../core/rehearsal';
import { dateWords, knownDay, mondayOf, type Plan, type PlanDay, type PlanItem, weekdayWords } from '../core/planning';
import { forPaper } from './sheetPage';
import {
  collect,
  drawLevelSign,
  drawPicture,
  drawText,
  finish,
  measure,
  newDocument,
  PAPER_SIZE,
  type TextStyle,
  type WeekPaper,
} from './sheet';

/** Some bars engraved small, for the week in which they are worked at. */
export interface HardBars {
  readonly work: string;
  readonly words: string;
  readonly svg: string;
  /** Width by height. */
  readonly shape: number;
}

export interface PracticeSheet {
  readonly instrument: Instrument;
  readonly paper: WeekPaper;
  readonly hardBars?: readonly HardBars[];
  /** How the instrument is called where it is a pupil's custom one. */
  readonly hears?: string;
}

/** Type sizes and distances for A4; A5 has about two thirds of them. */
const SIZES = { title: 19, day: 10.5, line: 9.5, why: 7.8, side: 42, top: 40, box: 8.5, row: 24, dayHead: 19 } as const;
const A5_SCALE = 0.74;
/** The hard bars' height and their share of the width. */
const HARD_HEIGHT = 58;

/**
 * A week of practice on a page: days with what stands there, boxes to tick and for the tempo that was reached, the bars
 * that are hard, and the usual cautions. Several weeks are several pages, after an overview of all of them.
 */
export function practiceSheetPdf(plan: Plan, sheet: PracticeSheet): Promise<Uint8Array> {
  const weeks = weeksOf(plan.days);
  const document = newDocument(`Practice${plan.pupil.name ? `, ${plan.pupil.name}` : ''}`, undefined, sheet.paper);
  const bytes = collect(document);
  const page = new WeekPage(document, sheet, plan);
  if (weeks.length > 1 || weeks.length === 0) page.overview(weeks);
  for (const week of weeks) page.week(week);
  finish(document);
  return bytes;
}

/** Days by the calendar's weeks; no more than seven, from lesson to lesson, are one page whatever weekday they begin on. */
function weeksOf(days: readonly PlanDay[]): readonly (readonly PlanDay[])[] {
  if (days.length <= 7) return days.some(({ items }) => items.length > 0) ? [days] : [];
  const weeks = new Map<number, PlanDay[]>();
  for (const day of days) {
    const monday = mondayOf(knownDay(day.date));
    weeks.set(monday, [...(weeks.get(monday) ?? []), day]);
  }
  return [...weeks.values()].filter((week) => week.some(({ items }) => items.length > 0));
}

const minutesOf = (items: readonly PlanItem[]) => items.reduce((sum, { minutes }) => sum + minutes, 0);

class WeekPage {
  private readonly scale: number;
  private readonly width: number;
  private readonly height: number;
  private readonly side: number;
  private y = 0;

  constructor(
    private readonly document: PDFKit.PDFDocument,
    private readonly sheet: PracticeSheet,
    private readonly plan: Plan,
  ) {
    const [width, height] = PAPER_SIZE[sheet.paper];
    this.scale = sheet.paper === 'a5' ? A5_SCALE : 1;
    this.width = width;
    this.height = height;
    this.side = SIZES.side * this.scale;
  }

  private style(size: number, font: TextStyle['font'] = 'sans', colour?: string): TextStyle {
    return { font, size: size * this.scale, ...(colour && { colour }) };
  }

  private get inside(): number {
    return this.width - 2 * this.side;
  }

  private text(text: string, x: number, style: TextStyle, most = this.width - this.side - x): void {
    drawText(this.document, text, x, this.y, most, style);
  }

  private begin(title: string, under: string): void {
    const { document, plan, sheet } = this;
    document.addPage({ size: [this.width, this.height], margin: 0 });
    this.y = SIZES.top * this.scale + SIZES.title * this.scale * 0.8;
    this.text(title, this.side, this.style(SIZES.title, 'serif-bold'));
    this.y += 17 * this.scale + (this.scale < 1 ? 3 : 0);
    drawLevelSign(document, plan.pupil.level, this.side, this.y - 10);
    this.text(`${sheet.hears ?? sheet.instrument.name} · ${under}`, this.side + 14, this.style(SIZES.line));
    this.y += 12 * this.scale;
  }

  /** All weeks on one page: what each work gets, and what is done by when. */
  overview(weeks: readonly (readonly PlanDay[])[]): void {
    const { plan } = this;
    this.begin(
      `${plan.pupil.name || 'Practice'}: the weeks`,
      `${dateWords(knownDay(plan.from))} to ${dateWords(knownDay(plan.to))}`,
    );
    for (const work of plan.work) {
      this.room(30);
      this.y += 14 * this.scale;
      this.text(work.title, this.side, this.style(SIZES.day, 'serif-bold'), this.inside * 0.5);
      const ready = work.ready === null ? 'not ready in this time' : `ready about ${dateWords(knownDay(work.ready))}`;
      const wanted = work.by === undefined ? '' : `, wanted by ${dateWords(knownDay(work.by))}`;
      this.text(`${ready}${wanted}`, this.side + this.inside * 0.52, this.style(SIZES.line));
      for (const line of work.advice) {
        this.room(12);
        this.y += 11 * this.scale;
        this.text(line, this.side + 10, this.style(SIZES.why, 'sans', '#333333'));
      }
    }
    this.y += 10 * this.scale;
    for (const week of weeks) {
      const [first] = week;
      const items = week.flatMap((day) => day.items);
      const works = [...new Set(items.map(({ work }) => work))];
      this.room(16);
      this.y += 14 * this.scale;
      if (first)
        this.text(`Week of ${dateWords(knownDay(first.date))}`, this.side, this.style(SIZES.line, 'serif-bold'));
      this.text(`${minutesOf(items)} min`, this.side + this.inside * 0.26, this.style(SIZES.line));
      const titles = works.map((id) => plan.work.find((one) => one.id === id)?.title ?? id);
      this.text(titles.join(' · '), this.side + this.inside * 0.36, this.style(SIZES.why));
    }
  }

  private room(height: number): void {
    if (this.y + height * this.scale < this.height - this.side) return;
    this.document.addPage({ size: [this.width, this.height], margin: 0 });
    this.y = SIZES.top * this.scale;
  }

  week(days: readonly PlanDay[]): void {
    const [first] = days;
    const last = days.at(-1);
    if (!first || !last) return;
    const items = days.flatMap((day) => day.items);
    const span = `${dateWords(knownDay(first.date))} to ${dateWords(knownDay(last.date))}`;
    this.begin(
      `${this.plan.pupil.name ? `${this.plan.pupil.name}: ` : ''}${span}`,
      `${minutesOf(items)} minutes this week`,
    );
    this.hard(items);
    for (const day of days) if (day.items.length > 0 || day.lesson) this.day(day);
    this.cautions();
  }

  /** The hard bars of what is worked at this week, side by side. */
  private hard(items: readonly PlanItem[]): void {
    const works = new Set(items.map(({ work }) => work));
    const shown = (this.sheet.hardBars ?? []).filter(({ work }) => works.has(work)).slice(0, 2);
    if (shown.length === 0) return;
    const height = HARD_HEIGHT * this.scale;
    const each = this.inside / shown.length - 8;
    shown.forEach(({ svg, shape, words }, k) => {
      const x = this.side + (k * this.inside) / shown.length;
      const width = Math.min(each, height * shape);
      this.y += 9 * this.scale;
      this.text(words, x, this.style(SIZES.why, 'serif'), each);
      this.y -= 9 * this.scale;
      drawPicture(this.document, forPaper(svg), x, this.y + 13 * this.scale, width, width / shape);
    });
    this.y += height + 22 * this.scale;
  }

  private day({ date, items, lesson }: PlanDay): void {
    const { document, scale } = this;
    const day = knownDay(date);
    this.room(SIZES.dayHead + SIZES.row);
    this.y += SIZES.dayHead * scale;
    document
      .moveTo(this.side, this.y + 3 * scale)
      .lineTo(this.side + this.inside, this.y + 3 * scale)
      .lineWidth(0.5)
      .stroke('#777777');
    this.text(`${weekdayWords(day)} ${dateWords(day)}`, this.side, this.style(SIZES.day, 'serif-bold'));
    const words = [items.length > 0 ? `${minutesOf(items)} minutes` : '', lesson ? 'lesson' : '']
      .filter(Boolean)
      .join(' · ');
    const style = this.style(SIZES.line);
    this.text(words, this.side + this.inside - measure(document, words, style) - 1, style, this.inside);
    for (const item of items) this.item(item);
  }

  private item(item: PlanItem): void {
    const { document, scale } = this;
    this.room(SIZES.row);
    this.y += 13.5 * scale;
    const box = SIZES.box * scale;
    document
      .rect(this.side, this.y - box + 1, box, box)
      .lineWidth(0.8)
      .stroke('black');
    this.text(`${item.minutes} min`, this.side + 16 * scale, this.style(SIZES.line, 'serif-bold'));
    const left = this.side + 52 * scale;
    const field = item.tempo === undefined ? 0 : 74 * scale;
    this.text(item.what, left, this.style(SIZES.line), this.inside - (left - this.side) - field - 4);
    if (field > 0) {
      const x = this.side + this.inside - field;
      this.text('reached', x + 4, this.style(SIZES.why));
      document
        .rect(x + 38 * scale, this.y - box, 34 * scale, box + 3 * scale)
        .lineWidth(0.6)
        .stroke('black');
    }
    this.y += 9 * scale;
    this.text(item.why, left, this.style(SIZES.why, 'sans', '#444444'), this.inside - (left - this.side) - field);
  }

  private cautions(): void {
    const words = `Rest after ${restMinutes(this.sheet.instrument, this.plan.pupil.level)} minutes of playing. Tired or sore: stop, and tell your teacher.`;
    drawText(this.document, words, this.side, this.height - 22 * this.scale, this.inside, this.style(SIZES.why));
  }
}
