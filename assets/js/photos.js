// A picture in one tap: kept on this device at once and sent from the outbox, so that no lost connection loses it.
import { listen, picturesFor, takePicture } from "./outbox.js";

export async function photos(form) {
  const { round, photos: to } = form.dataset;
  const label = (subject) => form.querySelector(`input[data-photo="${CSS.escape(subject)}"]`)?.closest("label");
  const say = (subject, words) => {
    const text = label(subject)?.querySelector("span");
    if (!text) return;
    text.dataset.words ??= text.textContent;
    text.textContent = words ? `${text.dataset.words}: ${words}` : text.dataset.words;
  };

  form.addEventListener("change", ({ target }) => {
    if (!target.dataset.photo || !target.files.length) return;
    const of = target.closest("fieldset")?.querySelector("legend").firstChild ?? label(target.dataset.photo).querySelector("span");
    const said = `Picture: ${of.textContent.trim()}`;
    takePicture({ id: crypto.randomUUID(), round, to, subject: target.dataset.photo, said, file: target.files[0] });
    say(target.dataset.photo, "on this device, not sent yet");
    target.value = "";
  });
  listen(({ kind, item, result }) => {
    if (kind !== "answer" || item.kind !== "picture" || item.round !== round) return;
    label(item.subject)?.parentElement.querySelector(".photo-trouble")?.remove();
    if (result.status === "stored") {
      say(item.subject, "kept");
      return show(form, result);
    }
    say(item.subject, "");
    trouble(label(item.subject), result);
  });
  for (const picture of await picturesFor(round)) say(picture.subject, "on this device, not sent yet");
}

function show(form, { small, full, subject }) {
  const link = Object.assign(document.createElement("a"), { href: full, target: "_blank", rel: "noopener" });
  link.append(Object.assign(document.createElement("img"), { src: small, alt: subject, width: 96, height: 72 }), subject);
  form.querySelector("[data-photo-strip]").prepend(link);
}

function trouble(label, { message, hint }) {
  const line = Object.assign(document.createElement("p"), { className: "message photo-trouble", textContent: `${message} ${hint}` });
  line.setAttribute("role", "alert");
  label?.after(line);
}
