/** What this browser remembers by a key, null for nothing. Some private windows refuse to look. */
export function remembered(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

/** The keys that begin so, of what this browser remembers. */
export function rememberedKeys(prefix: string): string[] {
  try {
    return Object.keys(localStorage).filter((k) => k.startsWith(prefix));
  } catch {
    return [];
  }
}

/** Remembers a text, or forgets it. A browser that refuses forgets it with the page. */
export function remember(key: string, text: string | null): void {
  try {
    if (text === null) localStorage.removeItem(key);
    else localStorage.setItem(key, text);
  } catch {
    // Nothing that is remembered so is needed.
  }
}
