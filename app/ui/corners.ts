/** Corners of the picture, as {@link placeOf} reads them. */
export const CORNERS = [
  { value: '0 0', label: 'top left' },
  { value: '1 0', label: 'top right' },
  { value: '0 1', label: 'bottom left' },
  { value: '1 1', label: 'bottom right' },
];

export const placeOf = (corner: string): { placeX: number; placeY: number } => {
  const [placeX = 0, placeY = 0] = corner.split(' ').map(Number);
  return { placeX, placeY };
};
