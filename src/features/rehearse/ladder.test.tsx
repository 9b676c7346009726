/** @jest-environment jsdom */
import { button, press, shown, words } from '../../../tests/screen';
import { useLadder } from './useLadder';

function Ladder({ goal }: { readonly goal: number }) {
  const { plan, place, played, begin, goOn, replan } = useLadder(goal);
  const kept = { plan: { ...plan, goal: 200 }, place: { perMinute: 150, good: 2, again: 1, isDone: false } };
  return (
    <>
      <p>{`${place.perMinute} ${place.good} ${plan.goal} ${plan.start}`}</p>
      <button type="button" onClick={() => (document.title = String(played('good')))}>
        Good
      </button>
      <button type="button" onClick={begin}>
        Begin
      </button>
      <button type="button" onClick={() => goOn(kept)}>
        Go on
      </button>
      <button type="button" onClick={() => replan({ ...plan, start: 90, rounds: 1 })}>
        Replan
      </button>
    </>
  );
}
const now = () => words(document.querySelector('p') ?? document.body);

test('a ladder begins at six tenths, goes on where somebody stopped, and begins anew with another plan', async () => {
  const { user } = shown(<Ladder goal={100} />);
  expect(now()).toBe('60 0 100 60');
  await press(user, 'Good');
  expect([now(), document.title]).toEqual(['60 1 100 60', 'false']);
  await press(user, 'Begin');
  expect(now()).toBe('60 0 100 60');
  await press(user, 'Go on');
  expect(now()).toBe('150 2 200 60');
  await press(user, 'Replan');
  expect([now(), button('Good')]).toEqual(['90 0 200 90', expect.anything()]);
});

test('it says when the goal was reached and played as often as asked', async () => {
  const { user } = shown(<Ladder goal={100} />);
  await press(user, 'Replan');
  const said: string[] = [];
  for (let k = 0; k < 4; k += 1) {
    await press(user, 'Good');
    said.push(`${now().split(' ')[0]} ${document.title}`);
  }
  expect(said).toEqual(['94 false', '98 false', '100 false', '100 true']);
});
