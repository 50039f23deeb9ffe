// What the name of a field says: the place, the quantity, and of several of these which: 'compressor.current@1'.
export function partsOf(input) {
  const [, place, quantity, variant = ""] = /^(.*)\.([a-z_]+)(?:@(.+))?$/.exec(input.dataset.field);
  return { place, quantity, variant };
}
