const COLOURS = ['#1f6f78', '#c8553d', '#7a9e3a'];

export const colourOf = (index: number): string => COLOURS[index % COLOURS.length];
