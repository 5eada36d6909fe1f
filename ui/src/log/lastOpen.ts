import { remember, remembered } from './remember';

const key = 'cressa-bench-open';

/** Notes where the bench is that is open, or with null that it was left. */
export const rememberOpen = (path: string | null): void => remember(key, path);

/** Where the bench that was open last is, null if it was left. */
export const lastOpen = (): string | null => remembered(key);
