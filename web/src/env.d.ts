declare namespace App {
  interface Locals {
    requestId: string;
  }
}

declare module '@fontsource-variable/archivo/wdth.css';
declare module '@fontsource/spline-sans-mono/400.css';
declare module '@fontsource/spline-sans-mono/500.css';
declare module '@fontsource/spline-sans-mono/600.css';
