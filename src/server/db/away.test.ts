import { isDatabaseAway, refusalOf } from './away';

it('knows a database that is not there, however it is wrapped', () => {
  const refused = Object.assign(new Error('connect ECONNREFUSED 127.0.0.1:5432'), { code: 'ECONNREFUSED' });
  expect(isDatabaseAway(refused)).toBe(true);
  expect(isDatabaseAway(Object.assign(new Error('x'), { name: 'SequelizeConnectionRefusedError' }))).toBe(
    true,
  );
  expect(
    isDatabaseAway(
      Object.assign(new Error('x'), {
        name: 'SequelizeDatabaseError',
        parent: Object.assign(new Error('the database system is starting up'), { code: '57P03' }),
      }),
    ),
  ).toBe(true);
  expect(isDatabaseAway(new Error('Connection terminated unexpectedly'))).toBe(true);
  expect(isDatabaseAway(new Error('outer', { cause: refused }))).toBe(true);
});
it('leaves other faults what they are', () => {
  for (const other of [
    null,
    undefined,
    new Error('duplicate key'),
    Object.assign(new Error('disk'), { code: 'ENOSPC' }),
    Object.assign(new Error('x'), { name: 'SequelizeUniqueConstraintError', parent: { code: '23505' } }),
  ])
    expect(isDatabaseAway(other)).toBe(false);
});

it('knows why a statement was refused, by its SQLSTATE', () => {
  const of = (code: string) => refusalOf(Object.assign(new Error('x'), { parent: { code } }));
  expect(['22P02', '22021', '22003', '23503', '53100', '57014', '55P03', '23505', 'ENOENT'].map(of)).toEqual([
    'bad-value',
    'bad-value',
    'bad-value',
    'reference',
    'disk-full',
    'time-out',
    'time-out',
    null,
    null,
  ]);
  expect(refusalOf(null)).toBeNull();
});
