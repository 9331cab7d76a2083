/** Colours for groups and collections, which stand apart from each other and from the page. */
export const colors: { color: string; word: string }[] = [
  { color: '#4F7A94', word: 'Slate blue' },
  { color: '#A8576B', word: 'Rose' },
  { color: '#5F8A57', word: 'Moss' },
  { color: '#B98A3A', word: 'Ochre' },
  { color: '#7A6AA8', word: 'Violet' },
  { color: '#3F8F8A', word: 'Sea' },
];
