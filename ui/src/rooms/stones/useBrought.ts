import { useState, type Dispatch, type SetStateAction } from 'react';
import { useLocation, useNavigate } from 'react-router';
import type { Choices } from '../../api/client';
import { useNotice } from '../../parts/notice';
import { fitWords } from '../../words/fit';

/** What a plan takes along to the variant that it goes on with. */
interface Brought {
  choices: Choices;
  text: string;
}

interface PlanInHand {
  choices: Choices;
  setChoices: Dispatch<SetStateAction<Choices>>;
  /** What was typed beside the choices. */
  text: string;
  setText: Dispatch<SetStateAction<string>>;
  /** Goes on with a variant that was fitted, and brings along what was chosen and typed. */
  fit: (variant: string, fitted: Choices) => void;
}

/**
 * A plan in hand, which can go on with a fitted variant of its diagram. Stone is '' for a new one,
 * piece '' where no piece of rough is on record.
 */
export function useBrought(proposal: Choices, stone: string, piece = ''): PlanInHand {
  const brought = useLocation().state as Brought | null;
  const [choices, setChoices] = useState<Choices>(brought?.choices ?? proposal);
  const [text, setText] = useState(brought?.text ?? '');
  const navigate = useNavigate();
  const say = useNotice();
  const fit = (variant: string, fitted: Choices) => {
    say({ text: fitWords.taken });
    const state: Brought = { choices: fitted, text };
    const of = (stone && `&stone=${stone}`) + (piece && `&piece=${piece}`);
    void navigate(`/stones/new?diagram=${variant}${of}`, { state });
  };
  return { choices, setChoices, text, setText, fit };
}
