import { lightWords } from '../../words/light';
import { polar, type Tilt } from './lighting';

/** How the stone is turned to the eye, in words. */
export function tiltText(t: Tilt): string {
  const { tilt, to } = polar(t);
  if (tilt < 0.5) return lightWords.faceUp;
  const clock = Math.round(to / 30) % 12 || 12;
  return lightWords.tilted(String(Math.round(tilt)), String(clock));
}
