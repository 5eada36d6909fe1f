import { configure } from '@testing-library/react';

// How long what is waited for may take on a busy machine, in ms.
configure({ asyncUtilTimeout: 15_000 });

// A browser resolves the addresses of requests against its page; Node does not.
const Plain = globalThis.Request;
globalThis.Request = class extends Plain {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === 'string' ? new URL(input, location.href) : input, init);
  }
};
