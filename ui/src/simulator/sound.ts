/** The sound of the simulated machine: the hum of its motor, and over it what the lap does to the stone. */
export class MachineSound {
  private context: AudioContext | undefined;
  private hum: GainNode | undefined;
  private grit: GainNode | undefined;
  private band: BiquadFilterNode | undefined;

  /** Begins to sound. Browsers allow it only in answer to a key or a touch. */
  start(): void {
    const context = new AudioContext();
    this.context = context;
    this.hum = new GainNode(context, { gain: 0 });
    this.grit = new GainNode(context, { gain: 0 });
    this.band = new BiquadFilterNode(context, { type: 'bandpass', frequency: 3000, Q: 0.8 });
    for (const frequency of [50, 100, 150]) {
      const tone = new OscillatorNode(context, { frequency });
      tone.connect(this.hum);
      tone.start();
    }
    const noise = new AudioBufferSourceNode(context, { buffer: whiteNoise(context), loop: true });
    noise.connect(this.band).connect(this.grit).connect(context.destination);
    this.hum.connect(context.destination);
    noise.start();
  }

  /** Sounds as the machine does now: how fast the lap turns, how loud it grinds from 0 to 1, with grains of so many µm. */
  follow(rpm: number, sound: number, grain: number): void {
    const { context, hum, grit, band } = this;
    if (!context || !hum || !grit || !band) return;
    const soon = context.currentTime + 0.05;
    hum.gain.linearRampToValueAtTime(rpm > 0 ? 0.03 : 0, soon);
    grit.gain.linearRampToValueAtTime(0.35 * sound, soon);
    // Fine grains speak higher.
    band.frequency.linearRampToValueAtTime(1500 + 4500 / (1 + grain / 8), soon);
  }

  stop(): void {
    void this.context?.close();
    this.context = undefined;
  }
}

function whiteNoise(context: AudioContext): AudioBuffer {
  const seconds = 2;
  const buffer = context.createBuffer(1, seconds * context.sampleRate, context.sampleRate);
  const samples = buffer.getChannelData(0);
  for (let i = 0; i < samples.length; i++) samples[i] = 2 * Math.random() - 1;
  return buffer;
}
