import { createContext, useContext } from 'react';
import type { GameWork } from './gameWork.ts';

export const GameContext = createContext<GameWork | null>(null);

export function useGame(): GameWork {
  const game = useContext(GameContext);
  if (!game) throw new Error('no games here');
  return game;
}
