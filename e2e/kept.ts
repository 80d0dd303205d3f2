/** Revision of which the browser keeps what was found. */
export const KEPT = (railwayId: string) => `new Promise((done) => {
  const opening = indexedDB.open("alderman-findings");
  opening.onsuccess = () => {
    const asking = opening.result.transaction("railways").objectStore("railways").get("${railwayId}");
    asking.onsuccess = () => done(asking.result?.revision ?? null);
  };
})`;
