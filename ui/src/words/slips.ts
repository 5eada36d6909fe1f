/** What is said where a stone does not look like its diagram. */
export const slipWords = {
  title: 'It does not look like the diagram',
  lead: 'Each picture is this stone after one slip; what differs is lit. Turn them, and choose the one that it looks like.',
  planned: 'planned',
  choose: 'choose a picture',
  nothing: 'No facet is cut yet that could be told apart.',
  told: 'the log tells of it',
  thatIsIt: 'That is it: ways out',
};
