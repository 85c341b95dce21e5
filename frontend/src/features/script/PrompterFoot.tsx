import { keyboards } from "../../devices/midi";
import { Button, KeyboardPad, KeyCap } from "../../ui";

interface PrompterFootProps {
  rehearsing: boolean;
  told: string;
  onTold: (words: string) => void;
  onTurn: (by: number) => void;
  onRehearse: () => void;
  onClose: () => void;
}

/** What can be done at the prompter, what rehearsing told, and a keyboard where none is at hand. */
export function PrompterFoot({ rehearsing, told, onTold, onTurn, onRehearse, onClose }: PrompterFootProps) {
  return (
    <div className="foot">
      <Button onPress={() => onTurn(1)}>
        <KeyCap>Space</KeyCap> next
      </Button>
      <Button $quiet onPress={() => onTurn(-1)}>
        <KeyCap>←</KeyCap> back
      </Button>
      <Button $quiet onPress={onRehearse} aria-pressed={rehearsing}>
        <KeyCap>R</KeyCap> {rehearsing ? "stop listening" : "rehearse"}
      </Button>
      <Button $quiet onPress={onClose}>
        <KeyCap>Esc</KeyCap> close
      </Button>
      <span>pedal or page-turner: next</span>
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
