"""German words of teaching, by what they say in English."""

from __future__ import annotations

from typing import Final

GERMAN: Final = """
instead of: statt|anstatt|anstelle von
right hand: rechte hand | die rechte hand | der rechten hand | rechten hand | rechter hand | die rechte | rechts
left hand: linke hand | die linke hand | der linken hand | linken hand | linker hand | die linke | links
both hands: beide hände | beiden händen | beiden hände
hand: hand
hands: hände
bars: takte | takten
bar: takt | taktes | takts
beats: schläge | schlägen | zählzeiten
beat: schlag | zählzeit
plays: spielt | spielen | spiele | spielst | schlägt | greift | greifen
held: gehalten
hold: halte | haltet | halten | liegen lassen
holds: hält
lasts: dauert | dauern
is: ist | heißt
are: sind
it's: das ist
has: hat | nimmt | bekommt
then: dann | danach | darauf
and: und
or: oder
with: mit
without: ohne
not: nicht | kein | keine
for: für | lang
in: in | im
on: auf | an
to: zu | zum | zur | bis | nach
of: von | vom
from: aus
the: der | die | das | den | dem | des
this: dieser | diese | dieses | diesen
a: ein | eine | einen | einem | einer
each: jeder | jede | jedes | jeden | jedem | je | jeweils
all: alle | allen
same: gleiche | gleichen | derselbe | dieselbe
the same: dasselbe | das gleiche
the same as: genau wie | genauso wie | wie
waltz: walzer
about: etwa | ungefähr | rund
at: bei | liegt bei
is at: liegt
again: wieder | noch einmal | nochmal | nochmals
once: einmal
twice: zweimal
three times: dreimal
four times: viermal
only: nur
together: zusammen
next: nächste | nächsten | nächster
now: jetzt | nun
here: hier
there: dort | da
up: hinauf | nach oben | hoch
down: hinunter | nach unten | herunter
goes: geht | gehen | wandert
goes up: steigt | steigen
goes down: fällt | fallen | sinkt
moves: bewegt sich | rückt | bewegt
stays: bleibt | bleiben
starts: beginnt | beginnen | startet | fängt an | anfangen
ends: endet | enden | schließt
high: hohe | hohen | hoher | hohes
low: tiefe | tiefen | tiefer | tiefes
highest note: höchste note | höchste ton | höchster ton
lowest note: tiefste note | tiefste ton | tiefster ton
top note: oberste note | oberste ton | oberster ton
bottom note: unterste note | unterste ton | unterster ton
middle C: mittlere c | mittleres c | mittleren c
note: note | ton
notes: noten | töne | tönen
chord: akkord | akkords | akkordes
chords: akkorde | akkorden
thumb: daumen
finger: finger
fingers: fingern
tune: melodie
bass: bass
bass note: basston | bassnote
song: lied | stück | song
key: tonart
scale: tonleiter
tempo: tempo
sharps: kreuze | kreuzen
flats: be
part: teil | abschnitt | part
verse: strophe
chorus: refrain
intro: einleitung | intro
bridge: bridge | brücke
root position: grundstellung
inversion: umkehrung
octave: oktave
octaves: oktaven
fifth: quinte
third: terz
fourth: quarte
sixth: sexte
half step: halbton
whole step: ganzton
eighths: achtel | achteln
quarters: viertel | vierteln
halves: halbe | halben
sixteenths: sechzehntel | sechzehnteln
 major seventh: -dur mit großer septime | -major-sieben | major sieben
 minor seventh: -moll sieben | -moll-septakkord | -moll mit sieben | -moll-sieben
 seventh: -septakkord | -dur-septakkord | -sieben
 major: -dur | -dur-akkord | -dur-dreiklang
 minor: -moll | -moll-akkord | -moll-dreiklang
 chord: -akkord | -dreiklang
half-diminished: halbvermindert
diminished: vermindert | verminderte | verminderter
augmented: übermäßig | übermäßige
first: erste | ersten | erster | erstes
second: zweite | zweiten | zweiter | zweites
third bar: dritte takt | dritten takt
fourth bar: vierte takt | vierten takt
fifth bar: fünfte takt | fünften takt
sixth bar: sechste takt | sechsten takt
last: letzte | letzten | letzter | letztes
one: eins
two: zwei
three: drei
four: vier
five: fünf
six: sechs
seven: sieben
eight: acht
nine: neun
ten: zehn
eleven: elf
twelve: zwölf
sixteen: sechzehn
we: wir
you: du | ihr | sie
it: er
count: zählt | zähle | zählen
beats to the minute: schläge pro minute | schlägen pro minute | schläge in der minute
"""
