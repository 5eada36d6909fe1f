/** Whether this browser can speak. */
export const canSpeak = (): boolean => 'speechSynthesis' in window;

/** Says a text at once; what is being said breaks off. */
export function say(text: string): void {
  if (!canSpeak() || !text) return;
  window.speechSynthesis.cancel();
  const words = new SpeechSynthesisUtterance(text);
  words.lang = navigator.language;
  window.speechSynthesis.speak(words);
}

let sound: AudioContext | undefined;

/** Two short rising tones. */
export function chime(): void {
  if (!('AudioContext' in window)) return;
  sound ??= new AudioContext();
  [880, 1175].forEach((pitch, i) => {
    const at = sound!.currentTime + 0.12 * i;
    const tone = sound!.createOscillator();
    const loud = sound!.createGain();
    tone.frequency.value = pitch;
    loud.gain.setValueAtTime(0.15, at);
    loud.gain.exponentialRampToValueAtTime(0.001, at + 0.11);
    tone.connect(loud).connect(sound!.destination);
    tone.start(at);
    tone.stop(at + 0.12);
  });
}
