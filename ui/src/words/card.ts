/** What is said of finishing a stone and of its card. */
export const cardWords = {
  steps: 'From the dop to the card',
  clockOf: (stone: number) => `Stone ${stone}: finishing`,
  price: 'Price',
  priceHelp: 'What you ask for it, if you do. A printed card shows it only if you want.',
  currency: 'Currency',
  currencyHelp: 'Three letters, such as EUR.',
  print: 'Print a card',
  printTitle: 'Card',
  for: 'For',
  fors: { buyer: 'the buyer', drawer: 'the drawer' } as Record<string, string>,
  withPrice: 'With its price',
  noPrice: 'The card of this stone has no price.',
  paper: 'Paper',
  papers: { a6: 'A6', a4: 'A4, to cut off', letter: 'Letter, to cut off' } as Record<
    string,
    string
  >,
  alt: 'The card as it is printed',
};
