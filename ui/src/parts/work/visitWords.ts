import type { BenchScript, Dial } from '../../api/client';
import { signed } from '../../words/numbers';
import { lapWords } from '../../words/laps';
import { w } from '../../words/words';

/** What a pass is called, with its lap. */
export function passName(script: BenchScript, id: string): string {
  const pass = script.passes.find((p) => p.id === id);
  return pass ? lapWords.line(pass.name, pass.lap, pass.compound) : '';
}

/** A cheat as it is told beside its tooth, nothing where there is none. */
export function cheatOf(dial: Dial, cheater: string): string {
  if (dial.cheat === 0) return '';
  if (cheater === 'none') return w.bench.cheatMissing(signed(dial.cheat));
  if (cheater === 'turns') return w.bench.cheatTurns(signed(dial.cheatTurns), signed(dial.cheat));
  return w.bench.cheat(signed(dial.cheat));
}
