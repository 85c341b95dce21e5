import { keyboards } from "../../devices/midi";
import { Button, clock, KeyboardPad, KeyCap, percent } from "../../ui";
import type { Look } from "./useStage";

interface PrompterFootProps {
  rehearsing: boolean;
  told: string;
  onTold: (words: string) => void;
  onTurn: (by: number) => void;
  onRehearse: () => void;
  onHear: () => void;
  timing: boolean;
  seconds: number;
  onTime: () => void;
  running: boolean;
  onRun: () => void;
  look: Look;
  onLook: (what: Partial<Look>) => void;
  onClose: () => void;
}

/** What can be done at the prompter, what rehearsing told, and a keyboard where none is at hand. */
export function PrompterFoot(props: PrompterFootProps) {
  const { rehearsing, told, onTold, onTurn, onRehearse, onHear, running, onRun, look, onLook, onClose } = props;
  const { timing, seconds, onTime } = props;
  return (
    <div className="foot">
      <Button onPress={() => onTurn(1)}>
        <KeyCap>Space</KeyCap> next
      </Button>
      <Button $quiet onPress={() => onTurn(-1)}>
        <KeyCap>←</KeyCap> back
      </Button>
      <Button $quiet onPress={onHear}>
        <KeyCap>H</KeyCap> hear it
      </Button>
      <Button $quiet onPress={onRun} aria-pressed={running}>
        <KeyCap>A</KeyCap> {running ? "stop running" : "run by itself"}
      </Button>
      <span>
        <Button $quiet onPress={() => onLook({ pace: look.pace / 1.15 })} aria-label="Run slower">
          <KeyCap>[</KeyCap>
        </Button>
        {percent(look.pace)}
        <Button $quiet onPress={() => onLook({ pace: look.pace * 1.15 })} aria-label="Run faster">
          <KeyCap>]</KeyCap>
        </Button>
      </span>
      <span>
        <Button $quiet onPress={() => onLook({ size: look.size - 0.15 })} aria-label="Smaller type">
          <KeyCap>−</KeyCap>
        </Button>
        type
        <Button $quiet onPress={() => onLook({ size: look.size + 0.15 })} aria-label="Larger type">
          <KeyCap>+</KeyCap>
        </Button>
      </span>
      <Button $quiet onPress={() => onLook({ mirrored: !look.mirrored })} aria-pressed={look.mirrored}>
        <KeyCap>M</KeyCap> mirrored
      </Button>
      <Button $quiet onPress={onRehearse} aria-pressed={rehearsing}>
        <KeyCap>R</KeyCap> {rehearsing ? "stop listening" : "rehearse"}
      </Button>
      <Button $quiet onPress={onTime} aria-pressed={timing}>
        <KeyCap>T</KeyCap> {timing || seconds ? `${clock(seconds)}, ${timing ? "stop" : "go on"}` : "time it"}
      </Button>
      <Button $quiet onPress={onClose}>
        <KeyCap>Esc</KeyCap> close
      </Button>
      <span className="told" role="status">
        {told}
      </span>
      {rehearsing && (
        <>
          <Button $quiet onPress={() => void keyboards.connect().then(onTold)}>
            use a MIDI keyboard
          </Button>
          <KeyboardPad
            low={36}
            high={95}
            pressed={new Set()}
            onToggle={(key) => {
              keyboards.press(key);
            }}
            width={620}
            height={54}
            label="A keyboard to rehearse on"
          />
          <Button
            $quiet
            onPress={() => {
              for (let key = 21; key < 109; key++) keyboards.release(key);
            }}
          >
            let go
          </Button>
        </>
      )}
    </div>
  );
}
