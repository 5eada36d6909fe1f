/** A name for a new entry that no other has: the stem with the next free number. */
export function freshID(list: readonly { id: string }[], stem: string): string {
  for (let n = list.length + 1; ; n++) {
    const id = `${stem}${n}`;
    if (!list.some((o) => o.id === id)) return id;
  }
}
