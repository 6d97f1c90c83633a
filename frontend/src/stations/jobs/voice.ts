import { useEffect, useState } from "react";

/** A voice that the device has itself; others would send what is said over the network. */
function ownVoice(): SpeechSynthesisVoice | undefined {
  const voices = "speechSynthesis" in window ? speechSynthesis.getVoices() : [];
  const own = voices.filter((voice) => voice.localService);
  return own.find((voice) => voice.lang.startsWith("en")) ?? own[0];
}

/** Says a sentence aloud each time that it changes, once it is switched on. there: the device has a voice. */
export function useVoice(sentence: string | null | undefined) {
  const [voice, setVoice] = useState(ownVoice);
  const [on, setOn] = useState(false);
  useEffect(() => {
    if (!("speechSynthesis" in window)) return;
    const come = () => setVoice(ownVoice());
    speechSynthesis.addEventListener("voiceschanged", come);
    return () => speechSynthesis.removeEventListener("voiceschanged", come);
  }, []);
  useEffect(() => {
    if (!on || !voice || !sentence) return;
    const utterance = new SpeechSynthesisUtterance(sentence);
    utterance.voice = voice;
    speechSynthesis.cancel();
    speechSynthesis.speak(utterance);
    return () => speechSynthesis.cancel();
  }, [on, voice, sentence]);
  return { there: voice !== undefined, on, toggle: () => setOn(!on) };
}
