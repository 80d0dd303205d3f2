/** Lets the browser keep the page that says what to do while the server does not answer; a browser that cannot goes without. */
export function keepAwayPage(): void {
  if (!import.meta.env.PROD || !("serviceWorker" in navigator)) return;
  navigator.serviceWorker.register("/away.js").catch(() => {
    // forbidden, or no secure address: then the browser's own page is shown
  });
}
