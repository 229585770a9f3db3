export interface Level {
  minute: number;
  millimetres: number;
}

export interface Station {
  name: string;
  levels: Level[];
}
