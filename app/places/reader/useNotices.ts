import { useSyncExternalStore } from "react";

/** What became of asking to be notified: how this browser is, as JSON, or why it is not. */
type Asked = { subscription: string } | { fault: string };

/** Whether this browser can be notified at all; unknown until its scripts run. */
export function useNotices(): boolean | undefined {
  return useSyncExternalStore<boolean | undefined>(
    neverChanges,
    () => "serviceWorker" in navigator && "PushManager" in window && "Notification" in window,
    () => undefined,
  );
}

const neverChanges = () => () => undefined;

/** Asks the person, and then their browser, to be notified. */
export async function askForNotices(publicKey: string): Promise<Asked> {
  if ((await Notification.requestPermission()) !== "granted")
    return { fault: "This browser does not let us notify you. It can be allowed in its settings for this site." };
  try {
    await navigator.serviceWorker.register("/notices.js");
    const { pushManager } = await navigator.serviceWorker.ready;
    const made = await pushManager.subscribe({ userVisibleOnly: true, applicationServerKey: publicKey });
    return { subscription: JSON.stringify(made.toJSON()) };
  } catch {
    return { fault: "This browser's service for notices could not be reached. Try again later." };
  }
}
