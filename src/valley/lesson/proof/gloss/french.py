"""French words of teaching, by what they say in English."""

from __future__ import annotations

from typing import Final

FRENCH: Final = """
instead of: au lieu de|au lieu du|à la place de
right hand: main droite | la droite
left hand: main gauche | la gauche
both hands: les deux mains | deux mains
hand: main
hands: mains
bars: mesures | les mesures
bar: mesure | la mesure
beats: temps
beat: temps fort
half a: un demi
plays: joue | jouent | jouez | jouons | joues | frappe | frappez | appuyez | appuie
hold: tiens | tenez | tenons | garde | gardez | tenir
holds: tient | tiennent
lasts: dure | durent
is: est | reste sur
are: sont
it's: c'est
that's: cela fait | ça fait
has: prend | prennent | a | ont
held: tenu | tenue | tenus | tenues
then: puis | ensuite | après
and: et
or: ou
with: avec
without: sans
not: pas
for: pendant | pour
in: dans | en
on: sur
to: à | au | aux | jusqu'à | jusqu'au | vers
of: de | du | des | d'
from: depuis
the: le | la | les | l'
this: ce | cet | cette
a: un | une
each: chaque | chacun | chacune
each chord: chaque accord
every: tous les | toutes les
all: tout | tous | toute | toutes
both: les deux
same: même | mêmes
the same as: la même que | le même que | pareille à | pareil que | comme
waltz: valse
very: très | tout doucement
the same: la même chose | pareil
again: encore | de nouveau
once: une fois
twice: deux fois
three times: trois fois
four times: quatre fois
only: seulement | seul | seule | ne que
together: ensemble
next: prochain | prochaine | suivant | suivante
now: maintenant
here: ici
there: là
up: en montant
down: en descendant
goes up: monte | montent | montez
goes down: descend | descendent | descendez
goes to: va à | va au | passe à | passe au | passez à
moves: bouge | bougent | se déplace
stays: reste | restent
starts: commence | commencent | commencez | débute
ends: finit | finissent | termine | se termine | finissez
high: aigu | aiguë | haut
low: grave | bas
highest note: note la plus haute | note la plus aiguë
lowest note: note la plus basse | note la plus grave
top note: note du haut | note supérieure
bottom note: note du bas
middle C: do du milieu | do central
note: note
notes: notes
chord: accord
chords: accords
thumb: pouce
finger: doigt
fingers: doigts
tune: mélodie | chant | air
bass: basse
song: morceau | chanson | pièce
key: tonalité
scale: gamme
metre: mesure à
tempo: tempo
sharps: dièses
flats: bémols
sharp: dièse
flat: bémol
part: partie | part
verse: couplet
chorus: refrain
intro: introduction
bridge: pont
riff: riff
root position: position fondamentale | état fondamental
inversion: renversement
octave: octave
octaves: octaves | en octave
fifth: quinte
third: tierce
fourth: quarte
sixth: sixte
half step: demi-ton
whole step: ton
eighths: croches
quarters: noires
halves: blanches
sixteenths: doubles croches
major seventh: majeur sept | majeur septième | septième majeure | majeur 7
minor seventh: mineur sept | mineur septième | septième mineure | mineur 7
half-diminished: demi-diminué
major: majeur | majeure
minor: mineur | mineure
diminished: diminué | diminuée
augmented: augmenté | augmentée
seventh: sept de dominante | septième | septième de dominante
ninth: neuvième
first: premier | première | premiers | premières
second: deuxième | second | seconde
last: dernier | dernière | derniers | dernières
fifth bar: cinquième mesure
sixth bar: sixième mesure
third bar: troisième mesure
fourth bar: quatrième mesure
one: un temps
two: deux
three: trois
four: quatre
five: cinq
six: six
seven: sept
eight: huit
nine: neuf
ten: dix
eleven: onze
twelve: douze
sixteen: seize
we: nous | on
you: tu | vous
it: il | elle | ça
count: compte | comptez | compter | on compte
beats to the minute: à la minute
"""
