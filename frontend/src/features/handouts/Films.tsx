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
import { Button, clock, ErrorNotice, Field, percent } from "../../ui";
import { MarginHeading, useWorkspace } from "../song";
import { sayFilm, secondsOf } from "./estimate";
import { FilmRow } from "./HandoutsView.styles";

const SPEEDS = [0.5, 0.7, 0.85, 1] as const;

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
        <select
          aria-label="Kind of film"
          value={wish.kind}
          onChange={(e) => set({ kind: e.target.value as FilmWish["kind"] })}
        >
          {kinds.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      </Field>
      <Field>
        <select
          aria-label="Size of the film"
          value={wish.shape}
          onChange={(e) => set({ shape: e.target.value as FilmWish["shape"] })}
        >
          {shapes.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
        <select
          aria-label="Pictures a second"
          value={wish.rate}
          onChange={(e) => set({ rate: Number(e.target.value) })}
        >
          <option value={30}>30 a second</option>
          <option value={60}>60 a second</option>
        </select>
      </Field>
      <Field>
        <select
          aria-label="Part that is filmed"
          value={wish.part}
          onChange={(e) => set({ part: Number(e.target.value) })}
        >
          <option value={0}>the whole song</option>
          {parts.map((n) => (
            <option key={n} value={n}>
              part {n}
            </option>
          ))}
        </select>
        {wish.kind !== "mp4" && (
          <select
            aria-label="In time with"
            value={wish.time}
            onChange={(e) => set({ time: e.target.value as FilmWish["time"] })}
          >
            {times.map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
        )}
      </Field>
      {piano && (
        <Field>
          <select
            aria-label="Speed of the film"
            value={wish.speed}
            onChange={(e) => set({ speed: Number(e.target.value) })}
          >
            {SPEEDS.map((s) => (
              <option key={s} value={s}>
                {percent(s)}
              </option>
            ))}
          </select>
          <input type="checkbox" checked={wish.count_in} onChange={(e) => set({ count_in: e.target.checked })} /> one
          bar counted in
        </Field>
      )}
      <details>
        <summary>what it shows</summary>
        {layers.map(([value, words]) => {
          const layer = value as FilmWish["layers"][number];
          return (
            <Field key={value}>
              <input
                type="checkbox"
                checked={wish.layers.includes(layer)}
                onChange={(e) =>
                  set({ layers: e.target.checked ? [...wish.layers, layer] : wish.layers.filter((l) => l !== layer) })
                }
              />{" "}
              {words}
            </Field>
          );
        })}
        <Field>
          <input type="checkbox" checked={wish.mirrored} onChange={(e) => set({ mirrored: e.target.checked })} /> low
          keys at the right, for a camera that looks at the player
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
        <input
          type="range"
          aria-label="Moment of the film"
          min={0}
          max={1}
          step={0.01}
          value={at}
          onChange={(e) => setAt(Number(e.target.value))}
        />{" "}
        a moment of it, at {percent(at)}
      </Field>
      {wish.kind !== "mp4" && <p>What is grey here is transparent: your film of the hands is seen there.</p>}
    </>
  );
}
