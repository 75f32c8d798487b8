declare module '@fontsource-variable/instrument-sans';
declare module '@fontsource-variable/spline-sans-mono';
