import { useEffect, useRef, useState } from "react";
import { keyboards } from "../../devices/midi";
import { type PlayedKey, Recorder } from "../../devices/recorder";
import { beatsAt, secondsAt } from "../../player";
import { useWorkspace } from "../song";

const LOOK_MS = 120;

/** Recording a pass: the song runs – with its count-in, loop and speed – and every key that is struck meanwhile is kept. */
export function usePass() {
  const { chart, part, player } = useWorkspace();
  const recorder = useRef<Recorder | null>(null);
  const [recording, setRecording] = useState(false);
  const [struck, setStruck] = useState(0);
  const [passes, setPasses] = useState<PlayedKey[][]>([]);

  useEffect(() => {
    if (!recording) return;
    const quiet = keyboards.listen((held) => {
      recorder.current?.hear(held);
      setStruck(recorder.current?.count ?? 0);
    });
    const timer = setInterval(() => recorder.current?.look(), LOOK_MS);
    return () => {
      quiet();
      clearInterval(timer);
    };
  }, [recording]);

  const begin = () => {
    const beat = () => beatsAt(chart, player.now());
    recorder.current = new Recorder(beat);
    setPasses([]);
    setStruck(0);
    setRecording(true);
    player.pause();
    player.seek(secondsAt(chart, part.start_beats));
    void player.play();
  };
  const end = () => {
    player.pause();
    setRecording(false);
    setPasses(recorder.current?.stop() ?? []);
    recorder.current = null;
  };
  return { recording, struck, passes, begin, end, forget: () => setPasses([]) };
}
