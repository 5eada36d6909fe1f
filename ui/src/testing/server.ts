import { vi } from 'vitest';
import type { Problem } from '../api/client';

type Answer = (body: never, path: string) => unknown;

/** An answer that refuses. */
export class Refused {
  readonly problem: Problem;

  constructor(
    readonly status: number,
    problem: Partial<Problem>,
  ) {
    this.problem = { type: '', title: '', status, detail: '', places: [], ...problem };
  }
}

export const stale = new Refused(409, {
  type: '/problems/stale',
  detail: 'It was changed elsewhere.',
});

/**
 * Answers requests in the place of a server, by method and the beginning of the path: the longest
 * that fits. What none fits fails the request, as a server that is away does.
 */
export function serve(answers: Record<string, Answer>): { asked: string[] } {
  const asked: string[] = [];
  vi.stubGlobal('fetch', async (to: RequestInfo, init?: RequestInit) => {
    const request = new Request(to, init);
    const { pathname } = new URL(request.url);
    const called = `${request.method} ${pathname}`;
    asked.push(called);
    const key = Object.keys(answers)
      .filter((k) => called.startsWith(k))
      .sort((a, b) => b.length - a.length)[0];
    if (key === undefined) throw new TypeError(`nobody answers ${called}`);
    const text = await request.text();
    const answer = await answers[key]!((text ? JSON.parse(text) : undefined) as never, pathname);
    if (answer instanceof Response) return answer;
    if (answer instanceof Refused)
      return Response.json(answer.problem, {
        status: answer.status,
        headers: { 'Content-Type': 'application/problem+json' },
      });
    return answer === undefined ? new Response(null, { status: 204 }) : Response.json(answer);
  });
  return { asked };
}
