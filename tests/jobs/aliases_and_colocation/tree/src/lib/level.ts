export const level = (raw: number): number => raw * 2;
