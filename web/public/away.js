// Keeps one page in the browser that says what to do while the server does not answer; everything else comes from the server.
const KEPT = "alderman-away-1";
const PAGE = "/away.html";
const PARTS = [PAGE, "/away.css"];

addEventListener("install", (event) => {
  skipWaiting();
  event.waitUntil(caches.open(KEPT).then((kept) => kept.addAll(PARTS)));
});

addEventListener("activate", (event) => {
  const others = (names) => names.filter((name) => name !== KEPT);
  event.waitUntil(
    caches
      .keys()
      .then((names) => Promise.all(others(names).map((name) => caches.delete(name))))
      .then(() => clients.claim()),
  );
});

addEventListener("fetch", (event) => {
  const { request } = event;
  const isPart = PARTS.includes(new URL(request.url).pathname);
  if (request.mode !== "navigate" && !isPart) return;
  event.respondWith(fetch(request).catch(() => caches.match(isPart ? request : PAGE)));
});
