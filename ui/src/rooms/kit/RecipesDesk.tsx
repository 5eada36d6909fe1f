import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { itemQuery, shelfQuery, type Shelved } from '../../api/kit';
import { ranges } from '../../api/ranges';
import { dropRecipe, recipesForQuery, recipesQuery, type Recipe } from '../../api/trials';
import { BesideList } from '../../parts/BesideList';
import { ChoiceList } from '../../parts/ChoiceList';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { Refusal } from '../../parts/forms/Refusal';
import { useNotice } from '../../parts/notice';
import { Await, Care } from '../../parts/Page';
import { Row } from '../../parts/Row';
import { kitWords } from '../../words/kit';
import { plain } from '../../words/numbers';
import { RecipeDialog } from './RecipeDialog';
import { RecipeSteps } from './RecipeSteps';
import { TellDialog } from './TellDialog';

const k = kitWords.recipes;

const blank: Recipe = {
  id: '',
  name: '',
  kind: 'charge',
  surfaces: [],
  parts: [],
  steps: [{ text: '', minutes: 0 }],
  caution: '',
  version: 0,
};

/** How laps are charged, made, trued, oiled and broken in. */
export function RecipesDesk() {
  const recipes = useQuery(recipesQuery);
  const [params, setParams] = useSearchParams();
  const [editing, setEditing] = useState<Recipe>();
  const choose = (id: string) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        next.set('recipe', id);
        return next;
      },
      { replace: true },
    );
  return (
    <Await query={recipes}>
      {(all) => {
        const chosen = all.find((r) => r.id === params.get('recipe')) ?? all[0];
        return (
          <BesideList
            list={
              <>
                <ChoiceList
                  label={kitWords.tabs.recipes}
                  list={all}
                  keyOf={(r) => r.id}
                  isChosen={(r) => r.id === chosen?.id}
                  onChoose={(r) => choose(r.id)}
                >
                  {(r) => (
                    <>
                      <span>{r.name}</span>
                      <Typography component="span" variant="body2">
                        {r.version > 0 ? k.own : k.kinds[r.kind]}
                      </Typography>
                    </>
                  )}
                </ChoiceList>
                <Button sx={{ mt: 3 }} onClick={() => setEditing(blank)}>
                  {k.add}
                </Button>
              </>
            }
          >
            {chosen && <RecipePage key={chosen.id} recipe={chosen} onEdit={setEditing} />}
            {editing && (
              <RecipeDialog
                recipe={editing}
                onClose={() => setEditing(undefined)}
                onKept={(r) => {
                  setEditing(undefined);
                  choose(r.id);
                }}
              />
            )}
          </BesideList>
        );
      }}
    </Await>
  );
}

/** A recipe, with the amounts for a lap and a clock for what takes time. */
function RecipePage({ recipe, onEdit }: { recipe: Recipe; onEdit: (r: Recipe) => void }) {
  const [params] = useSearchParams();
  const shelf = useQuery(shelfQuery).data ?? [];
  const laps = shelf.filter((s) => fits(recipe, s));
  const asked = params.get('lap');
  const [lapId, setLap] = useState(asked ?? '');
  const lap = laps.find((s) => s.item.id === lapId) ?? laps[0];
  const [grain, setGrain] = useState<number>();
  const fitted = useQuery({
    ...recipesForQuery(lap?.item.id ?? '', grain ?? 0),
    enabled: lap !== undefined,
  });
  const amounts = fitted.data?.recipes.find((r) => r.recipe.id === recipe.id)?.amounts;
  const byGrain = recipe.parts.some((p) => p.per === 'grain');
  const drop = useMutation(dropRecipe);
  const say = useNotice();
  return (
    <Box component="section" aria-label={recipe.name} sx={{ maxWidth: 760 }}>
      <Typography variant="h2" gutterBottom>
        {recipe.name}
      </Typography>
      {recipe.caution && <Care>{recipe.caution}</Care>}
      <Row>
        {lap ? (
          <PickField
            label={k.forLap}
            value={lap.item.id}
            options={laps.map((s) => ({ value: s.item.id, name: s.item.name }))}
            onChange={setLap}
          />
        ) : (
          <Typography color="text.secondary">{k.noneFits}</Typography>
        )}
        {lap && byGrain && fitted.data && (
          <NumberField
            key={lap.item.id}
            label={k.grain}
            unit="µm"
            {...ranges.HappenedRequest.grain}
            value={grain ?? fitted.data.grain}
            onChange={setGrain}
            width={130}
          />
        )}
      </Row>
      {recipe.parts.length > 0 && (
        <>
          <Typography variant="h3" sx={{ mt: 4, mb: 1 }}>
            {k.takes}
          </Typography>
          {recipe.parts.map((p, i) => (
            <Box key={p.what} sx={{ display: 'flex', borderBottom: 1, borderColor: 'divider' }}>
              <Typography sx={{ flexGrow: 1 }}>{p.what}</Typography>
              <Typography variant="figures">
                {amounts
                  ? `${plain(amounts[i]!)} ${p.unit}`
                  : `${plain(p.amount)} ${p.unit} · ${k.pers[p.per]}`}
              </Typography>
            </Box>
          ))}
        </>
      )}
      <RecipeSteps recipe={recipe} lap={lap?.item.id ?? ''}>
        {lap && recipe.kind === 'charge' && <NoteCharged lap={lap.item.id} />}
      </RecipeSteps>
      <Box sx={{ display: 'flex', gap: 2, mt: 4 }}>
        {recipe.version === 0 ? (
          <Button onClick={() => onEdit({ ...recipe, id: '', name: k.copyOf(recipe.name) })}>
            {k.copy}
          </Button>
        ) : (
          <>
            <Button onClick={() => onEdit(recipe)}>{k.change}</Button>
            <Button
              onClick={() => drop.mutate(recipe.id, { onSuccess: () => say({ text: k.dropped }) })}
            >
              {k.drop}
            </Button>
          </>
        )}
      </Box>
      <Refusal error={drop.error ?? fitted.error} />
    </Box>
  );
}

const fits = (r: Recipe, s: Shelved): boolean =>
  s.item.lap !== null &&
  !s.gone &&
  (r.surfaces.length === 0 || r.surfaces.includes(s.item.lap.surface));

/** The way from a recipe that charges a lap to the lap's own log. */
function NoteCharged({ lap }: { lap: string }) {
  const [telling, setTelling] = useState(false);
  const { data: page } = useQuery(itemQuery(lap));
  return (
    <>
      <Button variant="outlined" disabled={!page} onClick={() => setTelling(true)}>
        {k.note}
      </Button>
      {telling && page && (
        <TellDialog page={page} telling="charge" onClose={() => setTelling(false)} />
      )}
    </>
  );
}
