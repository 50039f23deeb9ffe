// The outbox: entries wait on this device until the server has answered for each of them.
//
// An entry is born with its own number (UUID), so sending it twice stores it once. Entries leave in the order they were
// taken. One tab sends at a time; all tabs hear what happened. Entries belong to the person who took them.
import { openDB } from "idb";

const SEND_AT_MOST = 50;
const RETRY_FIRST_MS = 1000;
const RETRY_LONGEST_MS = 30000;

const listeners = new Set();
const channel = "BroadcastChannel" in window ? new BroadcastChannel("outbox") : null;
let retryMs = RETRY_FIRST_MS;
let retryTimer = null;
let state = { waiting: 0, trouble: "" };

const database = openDB("ruddy", 1, {
  upgrade(db) {
    db.createObjectStore("entries", { keyPath: "sequence" });
    db.createObjectStore("device");
  },
});

export const person = () => document.body.dataset.person ?? "";
const csrfToken = () => document.body.dataset.csrf ?? "";

export function listen(listener) {
  listeners.add(listener);
  listener({ kind: "state", ...state });
}

function tell(event, everywhere = true) {
  if (event.kind === "state") state = { waiting: event.waiting, trouble: event.trouble };
  for (const listener of listeners) listener(event);
  if (everywhere) channel?.postMessage(event);
}

channel?.addEventListener("message", ({ data }) => tell({ ...data, elsewhere: true }, false));

// Takes an entry: numbered, timed, kept. Resolves once it is safe on this device.
export async function take(entry) {
  const db = await database;
  const tx = db.transaction(["entries", "device"], "readwrite");
  const sequence = ((await tx.objectStore("device").get("sequence")) ?? 0) + 1;
  await tx.objectStore("device").put(sequence, "sequence");
  const item = { ...entry, sequence, person: person(), taken_at: new Date().toISOString() };
  await tx.objectStore("entries").put(item);
  await tx.done;
  await count();
  send();
  return item;
}

export async function waitingFor(round) {
  return (await mine()).filter((item) => item.round === round);
}

async function mine() {
  return (await (await database).getAll("entries")).filter((item) => item.person === person());
}

async function count(trouble = state.trouble) {
  tell({ kind: "state", waiting: (await mine()).length, trouble });
}

async function deviceId() {
  const db = await database;
  const tx = db.transaction("device", "readwrite");
  let id = await tx.store.get("id");
  if (!id) await tx.store.put((id = crypto.randomUUID()), "id");
  await tx.done;
  return id;
}

export function send() {
  clearTimeout(retryTimer);
  const work = () => sendAll().catch(() => later("no connection"));
  return navigator.locks ? navigator.locks.request("outbox", work) : work();
}

async function sendAll() {
  for (let items = await mine(); items.length; items = await mine()) {
    const batch = items.slice(0, SEND_AT_MOST);
    const response = await fetch(document.body.dataset.entries, {
      method: "POST",
      headers: { "Content-Type": "application/json", Accept: "application/json", "X-CSRFToken": csrfToken() },
      body: JSON.stringify({ device: await deviceId(), clock: new Date().toISOString(), items: batch }),
      redirect: "manual",
    });
    if (response.type === "opaqueredirect" || response.status === 401 || response.status === 403) {
      return later("sign in again");
    }
    if (!response.ok) return later("server trouble");
    const { results } = await response.json();
    await settle(batch, results);
  }
  retryMs = RETRY_FIRST_MS;
  await count("");
}

// Every item is answered; whatever the answer, it need not be sent again.
async function settle(batch, results) {
  const db = await database;
  const tx = db.transaction("entries", "readwrite");
  await Promise.all(batch.map((item) => tx.store.delete(item.sequence)));
  await tx.done;
  results.forEach((result, index) => tell({ kind: "answer", item: batch[index], result }));
}

async function later(trouble) {
  await count(trouble);
  retryTimer = setTimeout(send, retryMs);
  retryMs = Math.min(retryMs * 2, RETRY_LONGEST_MS);
}

addEventListener("online", send);
if (person()) {
  count();
  send();
}
