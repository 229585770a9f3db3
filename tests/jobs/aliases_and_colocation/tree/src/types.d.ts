declare module '*.svg' {
  const path: string;
  export default path;
}
declare module '*.css' {}
declare namespace JSX {
  interface IntrinsicElements {
    [name: string]: object;
  }
}
declare const React: { createElement: (...parts: unknown[]) => string };
