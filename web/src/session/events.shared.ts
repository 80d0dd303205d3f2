// The one connection of a browser, for all its tabs: each tab says over its port what it listens to.
import { EventHub, REACH } from "./eventHub.ts";
import { servePort } from "./sharedEvents.ts";

const hub = new EventHub(REACH);

(globalThis as unknown as { onconnect: (event: MessageEvent) => void }).onconnect = ({ ports: [port] }) => {
  if (port) servePort(hub, port);
};
