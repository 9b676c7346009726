'use client';

import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  type ChartOptions,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  TimeScale,
} from 'chart.js';
import Annotation, { type AnnotationOptions } from 'chartjs-plugin-annotation';
import 'chartjs-adapter-date-fns';
import { Bar, Line } from 'react-chartjs-2';
import { dateWords, knownDay } from '../../core/planning';
import type { DatedFigure, MinuteFigures, TempoFigures } from './chartData';

Chart.register(
  BarController,
  BarElement,
  CategoryScale,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  TimeScale,
  Annotation,
);
Chart.defaults.font.family = "'Commissioner Variable', sans-serif";
Chart.defaults.color = '#3d423c';
Chart.defaults.borderColor = '#dedbca';

/** Ink, reed, cane and two lighter ones: told apart by lightness, so that grey is enough. */
const INKS = ['#232b4a', '#2f5d62', '#8a5414', '#c08a3a', '#8f9d90', '#c9c4ac'] as const;

/** A moment at noon, where no time zone makes another day of it. */
const noon = (date: string) => Date.parse(`${date}T12:00:00`);
const points = (figures: readonly DatedFigure[]) => figures.map(({ date, value }) => ({ x: noon(date), y: value }));

const timeAxis = {
  type: 'time' as const,
  time: { unit: 'week' as const, displayFormats: { week: 'd MMM' }, tooltipFormat: 'd MMM' },
  grid: { display: false },
};

/** A word where a line ends. */
function endLabel(figure: DatedFigure | undefined, content: string, colour: string): Record<string, AnnotationOptions> {
  if (!figure) return {};
  return {
    [content]: {
      type: 'label',
      xValue: noon(figure.date),
      yValue: figure.value,
      content,
      color: colour,
      position: { x: 'end', y: 'center' },
      xAdjust: -4,
      yAdjust: -12,
      font: { size: 12 },
    },
  };
}

/** Tempo by date: what was reached, the goal, and the forecast with its spread. */
export function TempoChart({ figures, today }: { readonly figures: TempoFigures; readonly today: string }) {
  const { reached, forecast, spread, goal, by, title } = figures;
  const options: ChartOptions<'line'> = {
    animation: false,
    maintainAspectRatio: false,
    scales: {
      x: timeAxis,
      y: { title: { display: true, text: 'beats a minute' }, suggestedMax: goal + 6, grid: { color: '#e9e6d8' } },
    },
    plugins: {
      annotation: {
        annotations: {
          goal: {
            type: 'line',
            yMin: goal,
            yMax: goal,
            borderColor: '#1d211f',
            borderWidth: 1,
            borderDash: [2, 3],
            label: {
              display: true,
              content: `goal ${goal}`,
              position: 'start',
              backgroundColor: 'transparent',
              color: '#1d211f',
              yAdjust: -8,
            },
          },
          ...(by !== undefined && {
            by: {
              type: 'line',
              xMin: noon(by),
              xMax: noon(by),
              borderColor: '#8c2f23',
              borderWidth: 1,
              label: {
                display: true,
                content: dateWords(knownDay(by)),
                position: 'start',
                backgroundColor: '#fbf8ef',
                color: '#8c2f23',
              },
            },
          }),
          ...endLabel(reached.at(-1), 'played', '#232b4a'),
          ...endLabel(forecast.at(-1), 'planned', '#8a5414'),
        },
      },
    },
  };
  const line = { borderWidth: 2, pointRadius: 2.5, tension: 0 };
  return (
    <Line
      aria-label={`${title}: tempo by date, played until ${dateWords(knownDay(today))}, planned after`}
      role="img"
      options={options}
      data={{
        datasets: [
          {
            ...line,
            data: spread.map(({ date, high }) => ({ x: noon(date), y: high })),
            order: 2,
            borderColor: 'transparent',
            pointRadius: 0,
            backgroundColor: '#efe2c8',
            fill: '+1',
          },
          {
            ...line,
            data: spread.map(({ date, low }) => ({ x: noon(date), y: low })),
            borderColor: 'transparent',
            pointRadius: 0,
          },
          {
            ...line,
            order: 1,
            data: points(forecast),
            borderColor: '#8a5414',
            borderDash: [5, 4],
            backgroundColor: '#8a5414',
          },
          { ...line, order: 0, data: points(reached), borderColor: '#232b4a', backgroundColor: '#232b4a' },
        ],
      }}
    />
  );
}

/** Minutes a day by kind of work, what was set as an outline. */
export function MinutesChart({ figures: { dates, kinds, set } }: { readonly figures: MinuteFigures }) {
  const labels = dates.map((date) => dateWords(knownDay(date)));
  return (
    <div className="flex h-full gap-2">
      <div className="min-w-0 flex-1">
        <Bar
          role="img"
          aria-label="Minutes on each of the last days, by kind of work"
          options={{
            animation: false,
            maintainAspectRatio: false,
            scales: {
              x: {
                stacked: true,
                grid: { display: false },
                ticks: { maxRotation: 0, autoSkip: true, maxTicksLimit: 7 },
              },
              y: { stacked: true, title: { display: true, text: 'minutes' }, grid: { color: '#e9e6d8' } },
            },
          }}
          data={{
            labels,
            datasets: [
              ...kinds.map(({ name, minutes }, k) => ({
                label: name,
                data: [...minutes],
                backgroundColor: INKS[k % INKS.length] ?? '#232b4a',
                stack: 'practised',
                barPercentage: 0.9,
                categoryPercentage: 0.9,
              })),
              {
                label: 'set',
                data: [...set],
                backgroundColor: 'transparent',
                borderColor: '#8f8d7c',
                borderWidth: 1,
                stack: 'set',
                grouped: false,
                barPercentage: 1,
                categoryPercentage: 1,
              },
            ],
          }}
        />
      </div>
      <ul aria-hidden="true" className="flex w-28 flex-col justify-center gap-1 text-[12.5px]">
        {kinds.map(({ name }, k) => (
          <li key={name} className="flex items-center gap-1.5">
            <svg width="10" height="10">
              <rect width="10" height="10" fill={INKS[k % INKS.length]} />
            </svg>
            {name}
          </li>
        ))}
        <li className="flex items-center gap-1.5">
          <svg width="10" height="10">
            <rect x="0.5" y="0.5" width="9" height="9" fill="none" stroke="#8f8d7c" />
          </svg>
          set
        </li>
      </ul>
    </div>
  );
}

/** Per cent of notes that the listener found right. */
export function NotesChart({ figures }: { readonly figures: readonly DatedFigure[] }) {
  return (
    <Line
      role="img"
      aria-label="Per cent of notes right, by date"
      options={{
        animation: false,
        maintainAspectRatio: false,
        scales: {
          x: timeAxis,
          y: { suggestedMin: 60, max: 100, title: { display: true, text: 'per cent' }, grid: { color: '#e9e6d8' } },
        },
        plugins: { annotation: { annotations: endLabel(figures.at(-1), 'right', '#2f5d62') } },
      }}
      data={{
        datasets: [
          {
            data: points(figures),
            borderColor: '#2f5d62',
            backgroundColor: '#2f5d62',
            borderWidth: 2,
            pointRadius: 2.5,
          },
        ],
      }}
    />
  );
}
