import { useEffect, useRef, useState } from "react";
import { LARGEST_VOICE } from "#contracts/draft";
import { failureText, type FailureBody } from "../../../parts/post.ts";

/** Speech is understood at this rate, and two megabytes of it are over eight minutes (bits a second). */
const BITS = 32_000;
const LONGEST = Math.floor((LARGEST_VOICE * 8) / BITS / 60) * 60;

/** Records from the microphone, stores the recording at an address, and says what came of it. */
export function useRecorder(address: string, onStored: (voice: { sha256: string; seconds: number }) => void) {
  const [state, setState] = useState<"idle" | "recording" | "storing">("idle");
  const [seconds, setSeconds] = useState(0);
  const [sentence, setSentence] = useState("");
  const recorder = useRef<MediaRecorder>(undefined);
  // Who leaves the page is not listened to any longer.
  useEffect(() => () => recorder.current?.stream.getTracks().forEach((track) => track.stop()), []);

  const store = async (parts: Blob[], length: number) => {
    setState("storing");
    const stored = await send(address, new Blob(parts));
    setState("idle");
    setSentence("failure" in stored ? failureText(stored.failure) : "");
    if ("sha256" in stored) onStored({ sha256: stored.sha256, seconds: length });
  };

  const begin = async () => {
    setSentence("");
    let stream: MediaStream;
    try {
      stream = await navigator.mediaDevices.getUserMedia({ audio: true });
    } catch {
      setSentence("The browser gives no microphone: allow it for this page, or go on without a voice.");
      return;
    }
    const parts: Blob[] = [];
    const began = performance.now();
    const length = () => Math.round((performance.now() - began) / 100) / 10;
    const own = new MediaRecorder(stream, { audioBitsPerSecond: BITS });
    const clock = setInterval(() => {
      setSeconds(Math.floor(length()));
      if (length() >= LONGEST) own.stop();
    }, 250);
    own.ondataavailable = ({ data }) => parts.push(data);
    own.onstop = () => {
      clearInterval(clock);
      stream.getTracks().forEach((track) => track.stop());
      void store(parts, length());
    };
    recorder.current = own;
    setSeconds(0);
    setState("recording");
    own.start();
  };
  return { state, seconds, sentence, begin, end: () => recorder.current?.stop() };
}

async function send(address: string, body: Blob): Promise<{ sha256: string } | { failure: FailureBody }> {
  try {
    const response = await fetch(address, { method: "POST", body });
    return (await response.json()) as { sha256: string } | { failure: FailureBody };
  } catch {
    return { failure: { code: "away", sentence: "The server does not answer: the recording was not stored." } };
  }
}
