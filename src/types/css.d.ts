import 'react';

declare module 'react' {
  // Custom properties are set from scripts and read by style sheets; React's own types do not name them.
  interface CSSProperties {
    [name: `--${string}`]: string | number | undefined;
  }
}
