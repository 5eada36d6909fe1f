import { momentOf, type Moment } from './hearing';

/** Why there is no microphone. */
export type Deaf = 'insecure' | 'refused' | 'none';

/** What a microphone gives, until it is closed. */
export interface Microphone {
  /** What is heard now. */
  moment: () => Moment;
  close: () => void;
}

/** How long a microphone cracks when it comes on while the analyser fills, in ms: what is heard then is neither idle nor cut. */
const settlesIn = 400;

/** Whether this page may ask for a microphone at all: over plain http from another machine no browser lets it. */
export const mayListen = (): boolean =>
  window.isSecureContext && navigator.mediaDevices?.getUserMedia !== undefined;

/**
 * Opens the microphone. Its sound goes into an analyser and nowhere else: nothing is recorded, nothing leaves the page. What
 * browsers do to make speech clear is off, because it would take the grinding for noise.
 */
export async function openMicrophone(): Promise<Microphone | Deaf> {
  if (!mayListen()) return 'insecure';
  let stream: MediaStream;
  try {
    stream = await navigator.mediaDevices.getUserMedia({
      audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
    });
  } catch (e) {
    return (e as DOMException).name === 'NotAllowedError' ? 'refused' : 'none';
  }
  const context = new AudioContext();
  const analyser = new AnalyserNode(context, { fftSize: 2048, smoothingTimeConstant: 0.3 });
  context.createMediaStreamSource(stream).connect(analyser);
  await new Promise((settled) => setTimeout(settled, settlesIn));
  const bins = new Float32Array(analyser.frequencyBinCount);
  return {
    moment: () => {
      analyser.getFloatFrequencyData(bins);
      return momentOf(bins, context.sampleRate / analyser.fftSize);
    },
    close: () => {
      for (const track of stream.getTracks()) track.stop();
      void context.close();
    },
  };
}
