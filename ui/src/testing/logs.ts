import type { components } from '../api/schema';

type Wire = components['schemas']['Event'];

/** The logs of a server, for `serve`: they keep what they are sent. */
export function serveLogs() {
  const stored: Wire[] = [];
  return {
    stored,
    answers: {
      'POST /api/events': ({ events }: { events: Wire[] }) => ({
        answers: events.map((e) => {
          stored.push({ ...e, seq: stored.length + 1, by: '', serverTime: e.deviceTime });
          return { id: e.id, outcome: 'stored', seq: stored.length, reason: '', message: '' };
        }),
      }),
      'GET /api/works/': (_: never, path: string) => ({
        events: stored.filter((e) => path === `/api/works/${e.stream.split('/')[1]}/events`),
        more: false,
        records: 'first',
      }),
    },
  };
}
