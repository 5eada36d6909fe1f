/** A record that is written over the version that was read. A write of an older one is stale. */
export interface Versioned<Body, Page, Written = unknown> {
  write: (body: Body, version: number) => Promise<Written>;
  read: () => Promise<Page>;
  versionOf: (page: Page) => number;
}
