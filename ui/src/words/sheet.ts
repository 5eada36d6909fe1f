/** What is said around the cutting sheet. */
export const sheetWords = {
  title: 'Cutting sheet',
  sheet: 'Sheet',
  paper: 'Paper',
  papers: { a4: 'A4', letter: 'Letter' } as Record<string, string>,
  pages: 'Pages',
  counts: { '1': 'on one page, if it fits', '2': 'on two pages' } as Record<string, string>,
  print: 'Print',
  pdf: 'As PDF',
  back: 'Back',
  page: (n: number, all: number) => `Page ${n} of ${all}`,
};
