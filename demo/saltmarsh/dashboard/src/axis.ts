export const axis = (width: number, height: number): string =>
  [0, 6, 12, 18, 24]
    .map((hour) => {
      const x = (hour / 24) * width;
      return `<line x1="${x}" x2="${x}" y1="0" y2="${height}" stroke="#c9d6d2"/><text x="${x + 4}" y="${height - 4}">${hour}</text>`;
    })
    .join('');
