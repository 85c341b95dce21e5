import { useState } from "react";
import type { Schemas } from "../../api/client";
import {
  type FilmWish,
  lookAddress,
  useDropFilm,
  useFilmChoices,
  useFilms,
  useGoOnWithFilm,
  useMakeFilm,
} from "../../api/films";
import { Button, Choice, clock, ErrorNotice, Field, type Option, percent, Slide, Tick } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";
import { sayFilm, secondsOf } from "./estimate";
import { FilmRow } from "./HandoutsView.styles";
import { PartChoice, SpeedChoice } from "./PartAndSpeed";

const RATES: Option<30 | 60>[] = [
  { value: 30, words: "30 a second" },
  { value: 60, words: "60 a second" },
];
/** Values with their words, as the server tells them. */
const told = <T extends string>(pairs: readonly (readonly string[])[]): Option<T>[] =>
  pairs.map(([value = "", words = ""]) => ({ value: value as T, words }));

/** What a film is to be, before it is chosen otherwise. */
export const FIRST_WISH: FilmWish = {
  kind: "webm",
  shape: "1080p",
  part: 0,
  rate: 30,
  time: "recording",
  speed: 1,
  count_in: true,
  metronome: false,
  mirrored: false,
  layers: ["ground", "keys", "fingers", "chord", "next", "count", "rail", "cue"],
};

interface Props {
  parts: readonly number[];
  wish: FilmWish;
  onWish: (wish: FilmWish) => void;
  /** A finished film that is to be seen in the sheet. */
  onWatch: (film: Schemas["FilmOut"] | null) => void;
}

/** Keys, chord, bar and count as a film: transparent, to lay over a film of the hands, or on paper with the piano's sound. */
export function Films({ parts, wish, onWish, onWatch }: Props) {
  const { song, chart } = useWorkspace();
  const choices = useFilmChoices();
  const films = useFilms(song.id);
  const make = useMakeFilm(song.id);
  const set = (change: Partial<FilmWish>) => {
    onWatch(null);
    onWish({ ...wish, ...change });
  };
  if (choices.error) return <ErrorNotice error={choices.error} />;
  if (!choices.data) return <p aria-busy="true">Getting the films ready …</p>;
  const { kinds, shapes, times, layers } = choices.data;
  const piano = wish.kind === "mp4" || wish.time === "track";
  return (
    <section aria-label="Films" style={{ marginTop: "0.8rem" }}>
      <MarginHeading>A film beside the hands</MarginHeading>
      <Field>
        <Choice
          label="Kind of film"
          hidden
          value={wish.kind}
          options={told<FilmWish["kind"]>(kinds)}
          onChange={(kind) => set({ kind })}
        />
      </Field>
      <Field>
        <Choice
          label="Size of the film"
          hidden
          value={wish.shape}
          options={told<FilmWish["shape"]>(shapes)}
          onChange={(shape) => set({ shape })}
        />
        <Choice label="Pictures a second" hidden value={wish.rate} options={RATES} onChange={(rate) => set({ rate })} />
      </Field>
      <Field>
        <PartChoice label="Part that is filmed" parts={parts} value={wish.part} onChange={(part) => set({ part })} />
        {wish.kind !== "mp4" && (
          <Choice
            label="In time with"
            hidden
            value={wish.time}
            options={told<FilmWish["time"]>(times)}
            onChange={(time) => set({ time })}
          />
        )}
      </Field>
      {piano && (
        <Field>
          <SpeedChoice label="Speed of the film" value={wish.speed} onChange={(speed) => set({ speed })} />
          <Tick checked={wish.count_in} onChange={(count_in) => set({ count_in })}>
            one bar counted in
          </Tick>
        </Field>
      )}
      <details>
        <summary>what it shows</summary>
        {layers.map(([value, words]) => {
          const layer = value as FilmWish["layers"][number];
          return (
            <Field key={value}>
              <Tick
                checked={wish.layers.includes(layer)}
                onChange={(on) =>
                  set({ layers: on ? [...wish.layers, layer] : wish.layers.filter((l) => l !== layer) })
                }
              >
                {words}
              </Tick>
            </Field>
          );
        })}
        <Field>
          <Tick checked={wish.mirrored} onChange={(on) => set({ mirrored: on })}>
            low keys at the right, for a camera that looks at the player
          </Tick>
        </Field>
      </details>
      <p>
        {sayFilm(
          secondsOf(chart, { part: wish.part, speed: piano ? wish.speed : 1, countIn: piano && wish.count_in }),
          wish.kind,
          wish.shape,
        )}
      </p>
      <Button $quiet onPress={() => set({})}>
        look at it
      </Button>{" "}
      <Button onPress={() => make.mutate(wish)} isDisabled={make.isPending}>
        make the film
      </Button>
      {make.error && <ErrorNotice error={make.error} />}
      <div role="status">
        {films.data?.map((film) => (
          <MadeFilm key={film.id} film={film} onWatch={onWatch} />
        ))}
      </div>
    </section>
  );
}

function MadeFilm({ film, onWatch }: { film: Schemas["FilmOut"]; onWatch: Props["onWatch"] }) {
  const { song } = useWorkspace();
  const drop = useDropFilm(song.id);
  const goOn = useGoOnWithFilm(song.id);
  const busy = film.state === "waiting" || film.state === "running";
  return (
    <FilmRow>
      <b>{film.name}</b>
      {busy && (
        <>
          <span>{film.stage || "in line"}</span>
          <progress aria-label={`${film.name}: ${film.stage || "in line"}`} value={film.fraction} />
        </>
      )}
      {film.state === "cancelled" && <span>stopped at {percent(film.fraction)}</span>}
      {film.state === "failed" && <span role="alert">{film.error}</span>}
      {film.address && (
        <span>
          {clock(Math.round(film.seconds))}, {size(film.size)}
          {film.older && "; of an older version of the song"}
        </span>
      )}
      <div>
        {film.address && (
          <>
            <Button $quiet onPress={() => onWatch(film)}>
              watch
            </Button>{" "}
            <a href={film.address} download>
              download
            </a>{" "}
          </>
        )}
        {film.goes_on && (
          <Button $quiet onPress={() => goOn.mutate(film.id)} aria-label={`Go on with ${film.name}`}>
            go on
          </Button>
        )}{" "}
        <Button $quiet onPress={() => drop.mutate(film.id)} aria-label={`${busy ? "Stop" : "Clear away"} ${film.name}`}>
          {busy ? "stop" : "clear away"}
        </Button>
      </div>
    </FilmRow>
  );
}

const size = (bytes: number) => (bytes < 1e6 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`);

/** A film in the sheet: one that is made plays, one that is only wished shows a moment. */
export function FilmLook({ wish, film }: { wish: FilmWish; film: Schemas["FilmOut"] | null }) {
  const { song, chart } = useWorkspace();
  const [at, setAt] = useState(0.3);
  const [broken, setBroken] = useState(false);
  const address = lookAddress(song.id, wish, at, chart.revision);
  if (film)
    return (
      // biome-ignore lint/a11y/useMediaCaption: its words are in the picture; captions are a hand-out of their own
      <video
        key={film.id}
        controls
        autoPlay
        src={`${film.address}?look=true`}
        aria-label={film.name}
        className="hands"
        onError={() => setBroken(true)}
      >
        {broken && "This browser does not play this kind of film; download it."}
      </video>
    );
  return (
    <>
      <img className="hands" src={address} alt={`The film at ${percent(at)} of its length`} />
      <Field>
        <Slide label="Moment of the film" min={0} max={1} step={0.01} value={at} words={percent} onChange={setAt} />a
        moment of it, at {percent(at)}
      </Field>
      {wish.kind !== "mp4" && <p>What is grey here is transparent: your film of the hands is seen there.</p>}
    </>
  );
}
