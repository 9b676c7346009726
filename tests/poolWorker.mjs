// Jobs that only a test wants: they wait, spin, eat memory or fail.
const kept = [];

export default function runJob({ job, args }) {
  if (job === 'wait') return new Promise((done) => setTimeout(() => done(args), args));
  if (job === 'spin') for (;;);
  if (job === 'eat') for (;;) kept.push(Array.from({ length: 100_000 }, () => Math.random()));
  if (job === 'fail') throw new RangeError('a job of the test failed');
  return args;
}
