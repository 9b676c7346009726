/** @jest-environment jsdom */
import { field, press, screen, shown, waitFor, words } from '../../../../tests/screen';
import { refusal, serverStandIn } from '../../../../tests/serverStandIn';
import { type PackChoice, USUAL_PACK } from '../../../core/keys';
import { ToastArea } from '../../../ui/Toast';
import { PackSheet } from './PackSheet';

const CONTENTS = {
  recipients: [
    { id: 'ada', name: 'Ada', instrument: 'Flute', goals: [], sheets: ['The week’s plan', 'Rope: Part'], files: ['a'] },
  ],
  missing: ['D major by heart: has no page of its own; the week’s plan names it.'],
  hasSounds: false,
};
const MADE = { address: 'http://here/h/secret', endsAt: '2027-03-31T00:00:00.000Z', square: '<svg/>' };
const HANDOUT = { id: 'h1', words: 'part', date: '2027-02-22', endsAt: '2027-03-31T00:00:00.000Z' };

function opened(more: Parameters<typeof serverStandIn>[0] = {}) {
  const kept: PackChoice[] = [];
  const asked = serverStandIn({
    'GET /api/pupils/ada/pack/contents.json': () => ({ json: CONTENTS }),
    'GET /api/pupils/ada/handouts': () => ({ json: { handouts: [HANDOUT] } }),
    ...more,
  });
  const made = shown(
    <ToastArea>
      <PackSheet
        to={{ kind: 'pupil', id: 'ada', name: 'Ada' }}
        given={USUAL_PACK.pupil}
        isAsBefore={false}
        today="2027-03-01"
        sheets={['week', 'part', 'ear']}
        files={['slow', 'musicxml']}
        tunes={() => null}
        onKeep={(choice) => Promise.resolve(void kept.push(choice))}
        onClose={() => undefined}
      />
    </ToastArea>,
  );
  return { asked, kept, ...made };
}

test('what is chosen is asked for, kept, and told before it is made: what stays out too', async () => {
  const { user, asked, kept } = opened({ 'GET /api/pupils/ada/pack/making': () => refusal(422, 'Not a page.') });
  await user.click(screen.getByRole('checkbox', { name: 'Learning it by ear' }));
  await user.click(screen.getByRole('checkbox', { name: 'Part' }));
  await user.type(field('A line for the cover'), 'Sing it');
  const contents = screen.getByRole('region', { name: 'In this pack' });
  await waitFor(() => expect(words(contents)).toMatch(/Rope: Part.*one file.*D major by heart.*no sounds/));
  expect(asked.at(-1)?.path).toContain('sheets=week%2Cear&files=bars%2Cslow%2Ctempo');
  await press(user, 'Make the pages');
  await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('Not a page.'));
  expect(kept).toEqual([expect.objectContaining({ sheets: ['week', 'ear'], note: 'Sing it' })]);
  expect(asked.at(-1)?.path).toMatch(/making\?.*note=Sing\+it/);
});

test('a link is shown once with its square; those that were handed out can be ended', async () => {
  const { user, asked } = opened({
    'POST /api/pupils/ada/handouts': () => ({ json: MADE }),
    'DELETE /api/handouts/h1': () => ({ json: { ok: true } }),
  });
  await press(user, /^End the link from 22 February/);
  await screen.findByText('The link has ended.');
  await press(user, /^Make a link/);
  await screen.findByText(MADE.address);
  const posted = asked.find(({ method }) => method === 'POST');
  expect(posted?.json).toMatchObject({ choice: { sheets: ['week', 'part'] }, date: '2027-03-01' });
  expect(screen.getByRole('link', { name: /with the square/ }).getAttribute('href')).toBe('/h/secret/files/pages.pdf');
});
