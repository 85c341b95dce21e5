import { useState } from "react";
import { useAddPerson, useChangePerson, useOwnPassword, usePeople } from "../../api/keeping";
import { useSession } from "../../api/songs";
import { Button, ErrorNotice, Field, Line, Tick } from "../../ui";

/** Who may sign in from other machines. */
export function People() {
  const people = usePeople();
  const session = useSession();
  const change = useChangePerson();
  return (
    <section aria-label="People">
      <h2>People</h2>
      <p>
        At this machine nobody is asked for a name. From others, Valley asks who it is, once it is started for them
        (README, Settings).
      </p>
      {people.error && <ErrorNotice error={people.error} />}
      {change.error && <ErrorNotice error={change.error} />}
      <ol aria-label="Accounts">
        {people.data?.people.map((person) => (
          <li key={person.name}>
            <b>{person.name}</b>, {person.owner ? "owner" : "editor"}
            {!person.active && ", shut out"}
            {person.last_here && (
              <span className="soft"> · last here {new Date(person.last_here).toLocaleDateString()}</span>
            )}{" "}
            {people.data.own && (
              <Button
                $quiet
                aria-label={person.active ? `Shut ${person.name} out` : `Let ${person.name} in again`}
                onPress={() => change.mutate({ name: person.name, active: !person.active })}
              >
                {person.active ? "shut out" : "let in again"}
              </Button>
            )}
          </li>
        ))}
      </ol>
      {people.data?.own && <NewPerson first={people.data.people.length === 0} />}
      {session.data?.signed_in && <OwnPassword />}
    </section>
  );
}

function NewPerson({ first }: { first: boolean }) {
  const add = useAddPerson();
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const [owner, setOwner] = useState(false);
  return (
    <form
      aria-label="A new account"
      onSubmit={(event) => {
        event.preventDefault();
        add.mutate(
          { name, password, owner },
          {
            onSuccess: () => {
              setName("");
              setPassword("");
            },
          },
        );
      }}
    >
      <Field>
        <Line label="name" value={name} required maxLength={150} autoComplete="off" onChange={setName} />
      </Field>
      <Field>
        <Line
          label="password"
          type="password"
          value={password}
          required
          maxLength={200}
          autoComplete="new-password"
          onChange={setPassword}
        />
      </Field>
      {first ? (
        <p className="soft">The first account is the owner’s.</p>
      ) : (
        <Field>
          <Tick checked={owner} onChange={setOwner}>
            an owner, who makes accounts
          </Tick>
        </Field>
      )}
      <Button type="submit" isDisabled={add.isPending}>
        Make an account
      </Button>
      {add.error && <ErrorNotice error={add.error} />}
    </form>
  );
}

function OwnPassword() {
  const change = useOwnPassword();
  const [old, setOld] = useState("");
  const [fresh, setFresh] = useState("");
  return (
    <form
      aria-label="Your password"
      style={{ marginTop: "1rem" }}
      onSubmit={(event) => {
        event.preventDefault();
        change.mutate(
          { old, new: fresh },
          {
            onSuccess: () => {
              setOld("");
              setFresh("");
            },
          },
        );
      }}
    >
      <Field>
        <Line
          label="your password now"
          type="password"
          value={old}
          required
          autoComplete="current-password"
          onChange={setOld}
        />
      </Field>
      <Field>
        <Line
          label="the new one"
          type="password"
          value={fresh}
          required
          autoComplete="new-password"
          onChange={setFresh}
        />
      </Field>
      <Button type="submit" isDisabled={change.isPending}>
        Change it
      </Button>
      {change.isSuccess && <p role="status">It is changed. Everywhere else you are signed out.</p>}
      {change.error && <ErrorNotice error={change.error} />}
    </form>
  );
}
