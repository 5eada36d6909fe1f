import { mutationOptions, queryOptions } from '@tanstack/react-query';
import { answer, client } from './client';
import { kitKey } from './kit';
import { making } from './making';
import { refresh } from './refresh';
import type { components } from './schema';
import { materialsQuery } from './settings';
import { stonesKey } from './stones';

/** Recipes for laps, trials of polishes, and trials that are judged blind. */

export type Recipe = components['schemas']['Recipe'];
export type FittedRecipe = components['schemas']['FittedRecipe'];
export type PolishTrial = components['schemas']['PolishTrial'];
export type PolishWay = components['schemas']['PolishWay'];
export type PolishList = components['schemas']['PolishList'];
export type BlindTrial = components['schemas']['BlindTrial'];
export type BlindOutcome = components['schemas']['BlindOutcome'];
export type NewBlindTrial = components['schemas']['BlindTrialRequest'];
export type Twin = components['schemas']['TwinRequest'];
export type Verdict = components['schemas']['VerdictRequest'];

const recipes = ['recipes'] as const;
const polishes = ['polishes'] as const;
const blind = ['trials'] as const;

export const recipesQuery = queryOptions({
  queryKey: [...recipes, 'all'],
  queryFn: async () => (await answer(client.GET('/api/recipes'))).recipes,
});

/** The recipes of a lap with their amounts, for a mean grain in µm; 0 is what it works with. */
export const recipesForQuery = (id: string, grain: number) =>
  queryOptions({
    queryKey: [...recipes, 'for', id, grain],
    queryFn: () =>
      answer(client.GET('/api/kit/{id}/recipes', { params: { path: { id }, query: { grain } } })),
  });

/** Keeps a recipe of one's own: one without an ID is new. */
export const saveRecipe = mutationOptions({
  mutationFn: (body: Recipe) =>
    body.id === ''
      ? making(['recipe', body], (head) => client.POST('/api/recipes', { body, ...head }))
      : answer(client.PUT('/api/recipes/{id}', { params: { path: { id: body.id } }, body })),
  onSuccess: refresh(recipes),
});

export const dropRecipe = mutationOptions({
  mutationFn: (id: string) =>
    answer(client.DELETE('/api/recipes/{id}', { params: { path: { id } } })),
  onSuccess: refresh(recipes),
});

export const polishesQuery = queryOptions({
  queryKey: polishes,
  queryFn: () => answer(client.GET('/api/polishes')),
});

// The best polish is proposed for the next stone of that material.
const polished = refresh(polishes, materialsQuery.queryKey, kitKey);

export const addPolishTrial = mutationOptions({
  mutationFn: (body: PolishTrial) =>
    making(['polish', body], (head) => client.POST('/api/polishes', { body, ...head })),
  onSuccess: polished,
});

export const dropPolishTrial = mutationOptions({
  mutationFn: (id: string) =>
    answer(client.DELETE('/api/polishes/{id}', { params: { path: { id } } })),
  onSuccess: polished,
});

export const blindTrialsQuery = queryOptions({
  queryKey: [...blind, 'all'],
  queryFn: async () => (await answer(client.GET('/api/trials'))).trials,
});

export const blindTrialQuery = (id: string) =>
  queryOptions({
    queryKey: [...blind, 'one', id],
    queryFn: () => answer(client.GET('/api/trials/{id}', { params: { path: { id } } })),
  });

/** Which is which. Only the workshop's own machine is told. */
export const blindKeyQuery = (id: string) =>
  queryOptions({
    queryKey: [...blind, 'key', id],
    queryFn: async () =>
      (await answer(client.GET('/api/trials/{id}/key', { params: { path: { id } } }))).entries,
  });

export const addBlindTrial = mutationOptions({
  mutationFn: (body: NewBlindTrial) =>
    making(['trial', body], (head) => client.POST('/api/trials', { body, ...head })),
  onSuccess: refresh(blind),
});

/** Plans a second stone like one that is planned, but for one thing. */
export const planPair = mutationOptions({
  mutationFn: (body: Twin) =>
    making(['pair', body], (head) => client.POST('/api/trials/pair', { body, ...head })),
  onSuccess: refresh(blind, stonesKey),
});

export const judgeTrial = mutationOptions({
  mutationFn: ({ id, ...body }: Verdict & { id: string }) =>
    making(['verdict', id, body], (head) =>
      client.POST('/api/trials/{id}/verdicts', { params: { path: { id } }, body, ...head }),
    ),
  onSuccess: refresh(blind),
});

export const openBlindTrial = mutationOptions({
  mutationFn: (id: string) =>
    answer(client.POST('/api/trials/{id}/open', { params: { path: { id } } })),
  onSuccess: refresh(blind),
});
