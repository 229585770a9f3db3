declare const console: { log(text: string): void };
