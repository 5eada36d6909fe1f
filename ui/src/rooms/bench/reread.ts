/** Fetches a bench's script anew, where the plan or a lap has changed. */
export type Reread = () => Promise<unknown>;
