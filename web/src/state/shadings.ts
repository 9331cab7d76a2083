/** How a view shades what it shows. */
export type Shading = 'clay' | 'coloured' | 'lamps' | 'picture' | 'wire' | 'wireOver' | 'seeThrough';

export const shadings: { shading: Shading; word: string; means: string }[] = [
  { shading: 'clay', word: 'clay', means: 'Matt, in soft light' },
  { shading: 'coloured', word: 'coloured', means: 'Materials with gloss and pictures' },
  { shading: 'lamps', word: 'by its lamps', means: 'Lit by the scene’s own lights' },
  { shading: 'picture', word: 'as in the picture', means: 'Only what the final picture shows, lit by its lamps' },
  { shading: 'wire', word: 'wire', means: 'Edges only; what lies behind shows' },
  { shading: 'wireOver', word: 'wire over clay', means: 'Edges drawn over the surfaces' },
  { shading: 'seeThrough', word: 'see-through', means: 'Surfaces like glass' },
];
