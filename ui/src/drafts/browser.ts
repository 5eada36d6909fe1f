import { KeptDrafts } from './kept';

/** The drafts of this browser: one database for the whole application. */
export const keptDrafts = new KeptDrafts();
