// The plate's picture stays beside the fields while they are typed. It waits in the outbox: of a new system until that is kept.
import { takePicture } from "./outbox.js";

let chosen = null; // of a new system, until Keep is pressed

export function plate(root) {
  const box = root.querySelector("[data-plate-picture]");
  box?.querySelector("[data-plate-file]").addEventListener("change", async ({ target }) => {
    const file = target.files[0];
    if (!file) return;
    const says = box.querySelector("[data-plate-says]");
    try {
      await draw(box.querySelector("canvas"), file);
      if (box.dataset.later === undefined) keep(box, file);
      else chosen = file;
      says.textContent = box.dataset.later === undefined ? "Kept." : "Kept with the system when you press Keep.";
    } catch {
      chosen = null;
      says.textContent = "This file is no picture that can be read.";
    }
  });
}

// Called before the form is sent: the picture is safe on this device by then.
export async function keepPlate() {
  const box = document.querySelector("[data-plate-picture]");
  if (chosen && box) await keep(box, chosen);
}

function keep(box, file) {
  const later = box.dataset.later !== undefined;
  return takePicture({ id: crypto.randomUUID(), round: "", to: box.dataset.platePicture, subject: "nameplate", said: "Picture: nameplate", file, patient: later });
}

async function draw(canvas, file) {
  const picture = await createImageBitmap(file);
  [canvas.width, canvas.height, canvas.hidden] = [picture.width, picture.height, false];
  canvas.getContext("2d").drawImage(picture, 0, 0);
}
