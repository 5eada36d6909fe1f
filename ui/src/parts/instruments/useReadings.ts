import { useSyncExternalStore } from 'react';
import type { LiveReading } from '../../api/client';
import { live } from '../../live/browser';
import type { Quantity } from '../../live/live';

/** What instruments read now, as often as a frame is painted. Only what shows the figures themselves may ask for them. */
export const useReadings = (): ReadonlyMap<Quantity, LiveReading> =>
  useSyncExternalStore(onFrame, live.readings);

/** How the instruments stand. */
export const useInstruments = () => useSyncExternalStore(live.onInstruments, live.instruments);

function onFrame(f: () => void): () => void {
  let frame: number | undefined;
  const off = live.onReadings(() => {
    frame ??= requestAnimationFrame(() => {
      frame = undefined;
      f();
    });
  });
  return () => {
    off();
    if (frame !== undefined) cancelAnimationFrame(frame);
  };
}
