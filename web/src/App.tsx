import { useEffect } from "react";
import { Outlet } from "react-router";
import { Notices } from "./parts/Notices.tsx";
import { useAppSelector } from "./store/store.ts";

/** What surrounds every page: the theme and the sentences shown for a while. */
export function App() {
  const theme = useAppSelector((state) => state.view.theme);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    localStorage.setItem("alderman-theme", theme);
  }, [theme]);
  return (
    <>
      <Outlet />
      <Notices />
    </>
  );
}
