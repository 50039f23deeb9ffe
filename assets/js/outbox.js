// The outbox: entries and pictures wait on this device until the server has answered for each of them.
//
// Each is born with its own number (UUID), so sending it twice stores it once. Entries leave in the order they were taken; one that the server
// fails on lets the others pass. What the server does not take stays here, with why, until it is corrected or dropped. One tab sends at a time;
// all tabs hear what happened. What waits belongs to the person who took it.
import { openDB } from "idb";

const SEND_AT_MOST = 50;
const RETRY_FIRST_MS = 1000;
const RETRY_LONGEST_MS = 30000;
const NOT_TAKEN = ["refused", "ask"];
const UNREADABLE = { message: "The server could not read this.", hint: "Enter it again." };
const PATIENCE_MS = 24 * 3600 * 1000; // how long a picture waits for what it is of to be kept
const FAILS_FOR_ALL = 2; // so many one after the other, and it is not one bad entry but the server

const listeners = new Set();
const channel = "BroadcastChannel" in window ? new BroadcastChannel("outbox") : null;
let retryMs = RETRY_FIRST_MS;
let retryTimer = null;
let state = { waiting: 0, refused: 0, trouble: "" };
let taking = 0; // taken just now, and not yet safe on this device

const database = openDB("ruddy", 2, {
  upgrade(db, from) {
    if (from < 1) {
      db.createObjectStore("entries", { keyPath: "sequence" });
      db.createObjectStore("device");
    }
    db.createObjectStore("pictures", { keyPath: "id" });
    db.createObjectStore("refused", { keyPath: "id" });
  },
  // A tab of an older version lets go and comes anew: what is half typed and what waits survive that.
  blocking: () => location.reload(),
  blocked: () => tell({ kind: "state", ...state, waiting: state.waiting || 1, trouble: "close the other tabs of this site" }, false),
});

export const person = () => document.body.dataset.person ?? "";
const csrfToken = () => document.body.dataset.csrf ?? "";

export function listen(listener) {
  listeners.add(listener);
  listener({ kind: "state", ...state });
}

function tell(event, everywhere = true) {
  if (event.kind === "state") state = { waiting: event.waiting, refused: event.refused, trouble: event.trouble };
  for (const listener of listeners) listener(event);
  if (everywhere) channel?.postMessage(event);
}

channel?.addEventListener("message", ({ data }) => tell(data, false));

// -- taking ---------------------------------------------------------------------------------------------------------------

// Takes an entry: numbered, timed, kept. Resolves once it is safe on this device. said, at: what it is in words, and the page it is of.
export async function take(entry) {
  begin();
  const db = await database;
  const tx = db.transaction(["entries", "device"], "readwrite");
  const sequence = ((await tx.objectStore("device").get("sequence")) ?? 0) + 1;
  await tx.objectStore("device").put(sequence, "sequence");
  const item = { at: location.pathname + location.hash, ...entry, sequence, person: person(), taken_at: new Date().toISOString() };
  await tx.objectStore("entries").put(item);
  await tx.done;
  await done();
  return item;
}

// Takes a picture: {id, round, to (its address), subject, said, file}. patient: what it is of may not be kept yet.
export async function takePicture(picture) {
  begin();
  await (await database).put("pictures", { at: location.pathname + location.hash, taken_at: new Date().toISOString(), ...picture, kind: "picture", person: person() });
  await done();
}

function begin() {
  taking += 1;
  tell({ kind: "state", ...state, waiting: state.waiting + 1 }, false);
}

async function done() {
  taking -= 1;
  await count();
  send();
}

export async function waitingFor(round) {
  return (await mine("entries")).filter((item) => item.round === round);
}

export async function picturesFor(round) {
  return (await mine("pictures")).filter((item) => item.round === round);
}

export const refused = () => mine("refused");

const now = () => performance.timeOrigin + performance.now();

// Was an entry answered after this page was asked for? A page on its way out still hears answers, and the next one may be written before they
// are stored: it would show what was there before them.
export async function answeredSinceAsked() {
  return ((await (await database).get("device", "answered")) ?? 0) > performance.timeOrigin;
}

// A picture that was turned down, sent again under a new number.
export async function sendAgain({ why, ...picture }) {
  await takePicture({ ...picture, id: crypto.randomUUID() });
  await drop(picture.id);
}

export async function drop(id) {
  await (await database).delete("refused", id);
  await count();
}

async function mine(store) {
  return (await (await database).getAll(store)).filter((item) => item.person === person());
}

async function count(trouble = state.trouble) {
  const [entries, pictures, kept] = await Promise.all([mine("entries"), mine("pictures"), mine("refused")]);
  tell({ kind: "state", waiting: entries.length + pictures.length + taking, refused: kept.length, trouble });
}

async function deviceId() {
  const db = await database;
  const tx = db.transaction("device", "readwrite");
  let id = await tx.store.get("id");
  if (!id) await tx.store.put((id = crypto.randomUUID()), "id");
  await tx.done;
  return id;
}

// -- sending --------------------------------------------------------------------------------------------------------------

export function send() {
  clearTimeout(retryTimer);
  const work = () => sendAll().catch(() => later("no connection"));
  return navigator.locks ? navigator.locks.request("outbox", work) : work();
}

async function sendAll() {
  const trouble = (await sendEntries()) || (await sendPictures());
  if (trouble) return later(trouble);
  retryMs = RETRY_FIRST_MS;
  await count("");
}

// Sends what waits; answers what is wrong, "" for nothing. Those that failed before come last.
async function sendEntries() {
  const inOrder = (a, b) => (a.tries ?? 0) - (b.tries ?? 0) || a.sequence - b.sequence;
  for (let items = await mine("entries"); items.length; items = await mine("entries")) {
    const batch = items.sort(inOrder).slice(0, SEND_AT_MOST);
    const failed = await sendBatch(batch);
    if (failed === "server trouble" && batch.length > 1) return sendEach(batch);
    if (failed) return failed;
  }
  return "";
}

// One by one, because the server failed on all of them together: a bad one keeps none of the others waiting.
async function sendEach(batch) {
  let running = 0;
  let trouble = "";
  for (const item of batch) {
    const failed = await sendBatch([item]);
    if (!failed) {
      running = 0;
      continue;
    }
    if (failed !== "server trouble") return failed;
    trouble = failed;
    await (await database).put("entries", { ...item, tries: (item.tries ?? 0) + 1 });
    if (++running === FAILS_FOR_ALL) return trouble;
  }
  return trouble;
}

// Answers what is wrong, "" when the server has answered for every item.
async function sendBatch(batch) {
  const items = batch.map(({ said, at, tries, person, form, ...item }) => item);
  const response = await post(document.body.dataset.entries, JSON.stringify({ device: await deviceId(), clock: new Date().toISOString(), items }));
  const failed = failureOf(response);
  if (failed === "unreadable" && batch.length > 1) return "server trouble";
  if (failed === "unreadable") await settle(batch, [{ ...UNREADABLE, status: "refused" }]);
  else if (failed) return failed;
  else await settle(batch, (await response.json()).results);
  return "";
}

async function sendPictures() {
  for (const picture of await mine("pictures")) {
    const body = new FormData();
    for (const key of ["id", "subject", "file"]) body.append(key, picture[key]);
    const response = picture.file.size > Number(document.body.dataset.largestPhoto) ? tooLarge() : await post(picture.to, body);
    const failed = failureOf(response);
    if (failed && failed !== "unreadable") return failed;
    if (response.status === 404 && picture.patient && Date.now() - new Date(picture.taken_at) < PATIENCE_MS) continue;
    const answer = await response.json().catch(() => ({}));
    const result = failed ? { status: "refused", message: answer.error ?? UNREADABLE.message, hint: answer.hint ?? "" } : { status: "stored", ...answer };
    await away("pictures", picture.id, failed ? { ...picture, why: result } : null); // with its file: it may be nowhere else
    const { file, ...item } = picture;
    tell({ kind: "answer", item, result });
  }
  return "";
}

// The answer of a server that would not take it: it would end the connection in the middle, as a lost one does.
function tooLarge() {
  return Response.json({ error: "That picture is too large.", hint: "Take a smaller one." }, { status: 413 });
}

function post(address, body) {
  const type = typeof body === "string" ? { "Content-Type": "application/json" } : {};
  return fetch(address, { method: "POST", headers: { ...type, Accept: "application/json", "X-CSRFToken": csrfToken() }, body, redirect: "manual" });
}

function failureOf(response) {
  if (response.type === "opaqueredirect" || response.status === 401 || response.status === 403) return "sign in again";
  if (response.status === 429 || response.status >= 500) return "server trouble";
  return response.ok ? "" : "unreadable";
}

// Every item is answered: what is stored need not be sent again, what is not taken stays with why. What takes the place of a refused one settles that too.
async function settle(batch, results) {
  const kept = await mine("refused");
  for (const [index, item] of batch.entries()) {
    const result = results[index];
    const isRefused = NOT_TAKEN.includes(result.status);
    const replaced = kept.filter((old) => old.id !== item.id && isOf(old) === isOf(item));
    for (const old of replaced) await away("refused", old.id);
    await away("entries", item.sequence, isRefused ? { ...item, why: result } : null);
  }
  await (await database).put("device", now(), "answered");
  await count();
  results.forEach((result, index) => tell({ kind: "answer", item: batch[index], result }));
}

// What an entry is of: another of the same takes its place. Words and what was done are each kept.
function isOf({ id, kind, form, round, place, quantity, variant, seen }) {
  if (form) return [round, form].join("|");
  if (kind === "reading") return [round, place, quantity, variant].join("|");
  return kind === "observation" ? [round, seen].join("|") : id;
}

// Takes something out of a store, and keeps it among the refused where it is one; both or neither.
async function away(store, key, refusal = null) {
  const tx = (await database).transaction([store, "refused"], "readwrite");
  await tx.objectStore(store).delete(key);
  if (refusal) await tx.objectStore("refused").put(refusal);
  await tx.done;
}

async function later(trouble) {
  await count(trouble);
  retryTimer = setTimeout(send, retryMs);
  retryMs = Math.min(retryMs * 2, RETRY_LONGEST_MS);
}

// After the page's parts have begun to listen: an answer that nobody hears leaves its field empty until the next reload.
export function startSending() {
  addEventListener("online", send);
  if (!person()) return;
  count();
  send();
}
