import { learn, levelOf, Listener, Turn, type Learned, type Moment } from './hearing';
import { openMicrophone, type Deaf, type Microphone } from './microphone';

/** How often the ear listens, and how long it listens to learn, in ms. */
const every = 50;
const learnFor = 3000;

/** What the ear is at. */
export interface Hearing {
  /** 'off' until somebody lets it listen. */
  state: 'off' | 'opening' | 'on' | Deaf;
  /** What it is just learning, and how far that is, from 0 to 1. */
  learning: 'idle' | 'cutting' | undefined;
  progress: number;
  /** What idle running was learned from, undefined until it was. */
  idle: boolean;
  /** The level between idle and cutting, or before that is learned how loud it is as a whole, in dB. */
  level: number;
  grinding: boolean;
  /** How many cuts have stopped since it was let listen. */
  stopped: number;
  /** Cutting was not told from idle running. */
  alike: boolean;
  /** How loud each part of the turn was when it last came by. */
  turn: readonly number[];
}

const silent: Hearing = {
  state: 'off',
  learning: undefined,
  progress: 0,
  idle: false,
  level: 0,
  grinding: false,
  stopped: 0,
  alike: false,
  turn: [],
};

/** An ear at the bench: it listens only as long as it is let, and knows of the sound what it needs and no more. */
export class Ear {
  private hearing = silent;
  private microphone: Microphone | undefined;
  private timer: ReturnType<typeof setInterval> | undefined;
  private listener = new Listener();
  private turning = new Turn();
  private heard: Moment[] = [];
  private idle: readonly Moment[] = [];
  private learned: Learned | undefined;
  private place: () => number | undefined = () => undefined;
  private readonly hearers = new Set<() => void>();
  private readonly enders = new Set<() => void>();

  now = (): Hearing => this.hearing;

  subscribe = (f: () => void): (() => void) => {
    this.hearers.add(f);
    return () => void this.hearers.delete(f);
  };

  /** Calls f whenever a cut has stopped. */
  onStop = (f: () => void): (() => void) => {
    this.enders.add(f);
    return () => void this.enders.delete(f);
  };

  /** Takes over what was learned of a stone on a lap, undefined for nothing. */
  know(learned: Learned | undefined): void {
    this.learned = learned;
    this.listener = new Listener();
    this.tell({ grinding: false, alike: false });
  }

  knows = (): Learned | undefined => this.learned;

  /** Asks where in its turn the stone is, from 0 to 1, while it is turned by hand; undefined where it is not. */
  turnBy(place: () => number | undefined): void {
    this.place = place;
    this.turning = new Turn();
    this.tell({ turn: [] });
  }

  async listen(): Promise<void> {
    if (this.hearing.state === 'on' || this.hearing.state === 'opening') return;
    this.tell({ state: 'opening' });
    const opened = await openMicrophone();
    if (typeof opened === 'string') return this.tell({ state: opened });
    // It may have been told to stop while the browser asked.
    if ((this.hearing.state as string) !== 'opening') return opened.close();
    this.microphone = opened;
    this.timer = setInterval(() => this.hear(opened.moment(), performance.now()), every);
    this.tell({ state: 'on', stopped: 0, level: this.learned ? 0 : -Infinity });
  }

  stop(): void {
    clearInterval(this.timer);
    this.microphone?.close();
    this.microphone = undefined;
    this.listener = new Listener();
    this.heard = [];
    this.tell({ ...silent, idle: this.hearing.idle });
  }

  /** Begins to learn what idle running or cutting sounds like. */
  learn(what: 'idle' | 'cutting'): void {
    this.heard = [];
    this.tell({ learning: what, progress: 0, alike: false });
  }

  private hear(moment: Moment, at: number): void {
    const { learning } = this.hearing;
    if (learning) this.gather(learning, moment);
    if (!this.learned) return this.tell({ level: loudest(moment) });
    const level = levelOf(moment, this.learned);
    const place = this.place();
    if (place !== undefined) {
      // A stone that is turned comes off the lap with every turn: that is no end.
      this.turning.hear(level, place);
      return this.tell({ level, grinding: level > 0.5, turn: [...this.turning.parts] });
    }
    const ended = this.listener.hear(level, at);
    const { stopped } = this.hearing;
    this.tell({ level, grinding: this.listener.grinding, stopped: stopped + (ended ? 1 : 0) });
    if (ended) this.enders.forEach((f) => f());
  }

  private gather(what: 'idle' | 'cutting', moment: Moment): void {
    this.heard.push(moment);
    const progress = (this.heard.length * every) / learnFor;
    if (progress < 1) return this.tell({ progress });
    if (what === 'idle') {
      this.idle = this.heard;
      return this.tell({ learning: undefined, progress: 0, idle: true });
    }
    const learned = learn(this.idle, this.heard);
    this.tell({ learning: undefined, progress: 0 });
    if (learned) this.know(learned);
    else this.tell({ alike: true });
  }

  private tell(change: Partial<Hearing>): void {
    this.hearing = { ...this.hearing, ...change };
    this.hearers.forEach((f) => f());
  }
}

/** How loud a moment is as a whole, in dB. */
const loudest = (moment: Moment): number =>
  10 * Math.log10(moment.reduce((sum, dB) => sum + 10 ** (dB / 10), 0));
