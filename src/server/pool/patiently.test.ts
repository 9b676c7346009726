import { patiently } from './pool';
import { JobError } from './workerPool';

test('an archive that finds the lane full comes again until it is done; any other trouble ends it', async () => {
  let tries = 0;
  const work = () => {
    tries += 1;
    return tries < 3 ? Promise.reject(new JobError('tuneFile', 'busy')) : Promise.resolve('made');
  };
  expect([await patiently(work), tries]).toEqual(['made', 3]);
  tries = 0;
  await expect(patiently(work, 2)).rejects.toMatchObject({ jobTrouble: 'busy' });
  expect(tries).toBe(2);
  for (const trouble of ['cancelled', 'too long'] as const)
    await expect(patiently(() => Promise.reject(new JobError('tuneFile', trouble)))).rejects.toThrow(trouble);
});
