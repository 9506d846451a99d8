/** How far back one looks for what was usually bought, in days. */
export const PERIODS = [
  { value: '90', label: 'three months' },
  { value: '180', label: 'six months' },
  { value: '365', label: 'a year' },
] as const;
