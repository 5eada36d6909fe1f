import { expect, it } from 'vitest';
import { ApiProblem, Unreachable, type Problem } from './client';
import { making } from './making';

const response = new Response();
const names: string[] = [];
const send = (outcome: () => Promise<{ data?: string; error?: Problem; response: Response }>) =>
  making(['stone', { name: 'once' }], ({ headers }) => {
    names.push(headers['Idempotency-Key']);
    return outcome();
  });

it('asks again under the same name after a lost answer, and under another once it was answered', async () => {
  const refused = { detail: 'no', type: 'about:blank' } as Problem;
  await expect(send(() => Promise.reject(new TypeError('network')))).rejects.toBeInstanceOf(
    Unreachable,
  );
  await expect(send(() => Promise.resolve({ error: refused, response }))).rejects.toBeInstanceOf(
    ApiProblem,
  );
  expect(await send(() => Promise.resolve({ data: 'made', response }))).toBe('made');
  await send(() => Promise.resolve({ data: 'made', response }));
  expect(names[0]).toMatch(/^[0-9a-f]{32}$/);
  expect(names[1]).toBe(names[0]);
  expect(new Set(names).size).toBe(3);
});
