/** What is in a file, in base64. */
export function base64(file: File): Promise<string> {
  return new Promise((done, failed) => {
    const reader = new FileReader();
    // "data:…;base64," stands before it.
    reader.onload = () => done(String(reader.result).split(',')[1] ?? '');
    reader.onerror = () => failed(reader.error ?? new Error('unreadable'));
    reader.readAsDataURL(file);
  });
}
