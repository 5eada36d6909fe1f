/** What fields say of what is typed into them. */
export const fieldWords = {
  range: (low: string, high: string, whole: boolean) =>
    whole ? `Type a whole number from ${low} to ${high}.` : `Type ${low} to ${high}.`,
};
