// The words in the corner - all sent, how many wait and why, how many were not taken - and the list behind them.
import { drop, listen, refused, sendAgain } from "./outbox.js";

export function outboxStatus() {
  return {
    text: "All sent",
    waiting: false,
    attention: false,
    init() {
      listen((event) => {
        if (event.kind !== "state") return;
        const parts = [event.refused && `${event.refused} not taken`, event.waiting && `${event.waiting} unsent${event.trouble ? `: ${event.trouble}` : ""}`];
        [this.waiting, this.attention] = [event.waiting > 0, event.refused > 0];
        this.text = parts.filter(Boolean).join(", ") || "All sent";
        document.querySelector("[data-outbox-says]").textContent = this.text;
        if (document.getElementById("outbox").open) list();
      });
    },
    async show() {
      await list();
      document.getElementById("outbox").showModal();
    },
  };
}

async function list() {
  const items = await refused();
  const box = document.querySelector("[data-refused]");
  box.replaceChildren(...items.map(row));
  document.querySelector("[data-none-refused]").hidden = items.length > 0;
}

function row(item) {
  const line = document.getElementById("refused-row").content.cloneNode(true).firstElementChild;
  const fill = (name, text) => (line.querySelector(`[data-${name}]`).textContent = text);
  fill("what", item.said ?? item.kind);
  fill("why", [item.why.message, item.why.hint].filter(Boolean).join(" "));
  fill("taken", item.taken_at ? new Date(item.taken_at).toLocaleString([], { dateStyle: "medium", timeStyle: "short" }) : "");
  const correct = line.querySelector("[data-correct]");
  correct.addEventListener("click", () => (item.file ? again(item) : open(item)));
  if (item.file) {
    correct.textContent = "Send it again";
    const save = line.querySelector("[data-save]");
    Object.assign(save, { href: URL.createObjectURL(item.file), download: item.file.name || "picture", hidden: false });
  }
  line.querySelector("[data-drop]").addEventListener("click", async () => {
    await drop(item.id);
    list();
  });
  return line;
}

async function again(item) {
  await sendAgain(item);
  list();
}

// Goes to where it was entered. The sheet puts it back into its field, as typed.
function open(item) {
  document.getElementById("outbox").close();
  const [path, hash] = item.at.split("#");
  sessionStorage.setItem("correct", item.id);
  if (location.pathname !== path) return location.assign(item.at);
  if (hash) location.hash = hash;
  dispatchEvent(new CustomEvent("correct"));
}
