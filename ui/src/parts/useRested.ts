import { useEffect, useState } from 'react';

/** The text that has stayed as it is for so many ms; '' until the first one has. */
export function useRested(text: string, still: number): string {
  const [rested, setRested] = useState('');
  useEffect(() => {
    const wait = setTimeout(() => setRested(text), still);
    return () => clearTimeout(wait);
  }, [text, still]);
  return rested;
}
