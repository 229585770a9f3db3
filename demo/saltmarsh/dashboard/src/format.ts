/** @param {number} millimetres above chart datum; see ./levels.ts */
export const metres = (millimetres: number): string => `${(millimetres / 1000).toFixed(2)} m`;

export const clock = (minute: number): string =>
  `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
