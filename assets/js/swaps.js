// What the server draws anew is morphed in: what stays the same stays in place, with its focus, its scroll and what is open in it.
import htmx from "htmx.org";
import { Idiomorph } from "idiomorph";

const OPENED_HERE = { DETAILS: "open" }; // a person opened it: the server knows nothing of that

export function swaps() {
  htmx.defineExtension("morph", {
    isInlineSwap: () => false,
    handleSwap: (style, target, fragment) =>
      style === "morph" && Idiomorph.morph(target, [...fragment.childNodes], { morphStyle: "innerHTML", callbacks: { beforeAttributeUpdated } }),
  });
}

function beforeAttributeUpdated(name, node) {
  return OPENED_HERE[node.tagName] !== name;
}
