import reactHooks from 'eslint-plugin-react-hooks';
import { dirname, join, relative, sep } from 'node:path';
import tseslint from 'typescript-eslint';

const src = join(import.meta.dirname, 'src');

/** What each folder of src may import besides itself. Arrows run down only. */
const below = {
  words: ['api'],
  theme: [],
  api: [],
  log: ['api', 'words'],
  drafts: ['api'],
  live: ['api'],
  ear: [],
  parts: ['api', 'log', 'drafts', 'live', 'words', 'theme'],
  rooms: ['parts', 'api', 'log', 'drafts', 'live', 'ear', 'words', 'theme'],
  simulator: ['parts', 'api', 'words', 'theme'],
};

/** Folders in which nothing knows of React: they are plain state and storage. */
const plain = ['log', 'drafts', 'live', 'ear', 'words'];

/** The folder of src that a file lies in, and its room where it has one. */
function placeOf(file) {
  const [folder, room] = relative(src, file).split(sep);
  return { folder, room: folder === 'rooms' ? room : undefined };
}

/** Keeps the arrows between the folders, and rooms apart from each other. */
const arrows = {
  meta: { type: 'problem', schema: [] },
  create(context) {
    const from = placeOf(context.filename);
    const check = (node) => {
      const spec = node.source?.value;
      if (typeof spec !== 'string') return;
      if (!spec.startsWith('.')) {
        if (plain.includes(from.folder) && /^(react|react-dom|@mui)(\/|$)/.test(spec))
          context.report({ node, message: `${from.folder} works without React.` });
        return;
      }
      const to = placeOf(join(dirname(context.filename), spec));
      if (to.folder === from.folder && to.room === from.room) return;
      if (to.folder === 'testing' && context.filename.includes('.test.')) return;
      if (from.room && to.room)
        context.report({
          node,
          message: 'A room imports no other room: what both use belongs in parts.',
        });
      else if (below[from.folder] && !below[from.folder].includes(to.folder))
        context.report({ node, message: `${from.folder} may not import ${to.folder}.` });
    };
    return {
      ImportDeclaration: check,
      ImportExpression: check,
      ExportNamedDeclaration: check,
      ExportAllDeclaration: check,
    };
  },
};

export default tseslint.config(
  { ignores: ['dist', 'src/api/schema.ts', 'src/api/ranges.ts'] },
  ...tseslint.configs.recommended,
  {
    files: ['src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks, house: { rules: { arrows } } },
    rules: { ...reactHooks.configs.recommended.rules, eqeqeq: 'error', 'house/arrows': 'error' },
  },
);
