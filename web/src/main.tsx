import "./styles.css";
import { setNonce } from "get-nonce";
import { setAutoFreeze } from "immer";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Provider } from "react-redux";
import { matchPath } from "react-router";
import { App } from "./frame/App.tsx";
import { openRailway, resumeWaiting } from "./session/actions.ts";
import { makeStore } from "./store/makeStore.ts";
import { browserServices } from "./store/services.ts";
import { METER_KIND, setMeterKind, setTheme } from "./store/view.ts";
import { keepAwayPage } from "./tools/awayPage.ts";
import { keptText } from "./tools/browserStore.ts";

// style elements which dialogs put into the page must carry the page's nonce
const nonce = document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content;
if (nonce) setNonce(nonce);

// what is frozen shows mistakes while one develops; to freeze a club's railway takes half a second
if (import.meta.env.PROD) setAutoFreeze(false);

const store = makeStore(browserServices());
if (keptText("alderman-theme") === "shed") store.dispatch(setTheme("shed"));
const kind = keptText(METER_KIND);
if (kind === "averaging" || kind === "effective") store.dispatch(setMeterKind(kind));
// the railway that the address names is asked for at once, beside what draws it
const named = matchPath("/r/:railwayId/*", window.location.pathname)?.params.railwayId;
if (named) store.dispatch(openRailway(named));
void store.dispatch(resumeWaiting());

const root = document.getElementById("root");
if (!root) throw new Error("The page has no #root to draw into.");
createRoot(root).render(
  <StrictMode>
    <Provider store={store}>
      <App />
    </Provider>
  </StrictMode>,
);
keepAwayPage();
