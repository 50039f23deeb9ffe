// A picture in one tap: sent at once, with a number of its own, so that trying again never doubles it.
export function photos(form) {
  form.addEventListener("change", (event) => {
    const input = event.target;
    if (!input.dataset.photo || !input.files.length) return;
    send(form, { id: crypto.randomUUID(), subject: input.dataset.photo, file: input.files[0] }, input.closest("label"));
    input.value = "";
  });
}

async function send(form, picture, label) {
  const words = label.querySelector("span");
  const before = label.dataset.words ?? words.textContent;
  label.dataset.words = before;
  words.textContent = "Sending …";
  const body = new FormData();
  for (const [key, value] of Object.entries(picture)) body.append(key, value);
  const response = await fetch(form.dataset.photos, {
    method: "POST",
    headers: { Accept: "application/json", "X-CSRFToken": document.body.dataset.csrf },
    body,
  }).catch(() => null);
  const answer = response && !response.redirected ? await response.json().catch(() => ({})) : {};
  label.parentElement.querySelector(".photo-trouble")?.remove();
  if (response?.ok && answer.small) {
    words.textContent = `${before}: kept`;
    return show(form, answer);
  }
  words.textContent = before;
  trouble(form, picture, label, answer.error ?? "The picture was not sent: no connection.");
}

function show(form, { small, full, subject }) {
  const link = Object.assign(document.createElement("a"), { href: full, target: "_blank", rel: "noopener" });
  link.append(Object.assign(document.createElement("img"), { src: small, alt: subject, width: 96, height: 72 }), subject);
  form.querySelector("[data-photo-strip]").prepend(link);
}

function trouble(form, picture, label, text) {
  const line = Object.assign(document.createElement("p"), { className: "message photo-trouble" });
  line.setAttribute("role", "alert");
  const again = Object.assign(document.createElement("button"), { type: "button", className: "small", textContent: "Try again" });
  again.addEventListener("click", () => send(form, picture, label));
  line.append(`${text} `, again);
  label.after(line);
}
