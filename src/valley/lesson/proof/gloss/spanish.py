"""Spanish words of teaching, by what they say in English."""

from __future__ import annotations

from typing import Final

SPANISH: Final = """
instead of: en lugar de|en vez de
right hand: mano derecha | la derecha
left hand: mano izquierda | la izquierda
both hands: las dos manos | ambas manos | dos manos
hand: mano
hands: manos
bars: compases | los compases
bar: compás | el compás
beats: tiempos | pulsos
beat: tiempo | pulso
plays: toca | tocan | tocamos | tocas | tocad | pulsa | pulsan
hold: mantén | sostén | sostenemos | mantenemos | aguanta | mantener
holds: mantiene | sostiene | mantienen
lasts: dura | duran
is: es | está | es de
are: son | están
it's: eso es
has: tiene | lleva
then: luego | después | entonces
and: y | e
or: o | u
with: con
without: sin
not: no
for: durante | para | por
in: en
on: sobre
to: a | al | hasta | hacia
of: de | del
from: desde
the: el | la | los | las
this: este | esta
a: un | una
each: cada | cada uno
all: todo | todos | toda | todas
same: mismo | misma
the same: lo mismo
the same as: igual que | como
waltz: vals
about: más o menos
again: otra vez | de nuevo
once: una vez
twice: dos veces
three times: tres veces
four times: cuatro veces
only: solo | sólo | solamente
together: juntos | juntas
next: próximo | próxima | siguiente
now: ahora
here: aquí
there: allí | ahí
up: hacia arriba
down: hacia abajo
goes up: sube | suben
goes down: baja | bajan
goes to: va a | va al | pasa a
moves: se mueve | mueve
stays: se queda | queda | permanece
starts: empieza | comienza | empiezan | comienzan | empezamos
ends: termina | acaba | terminan | terminamos
high: agudo | aguda | alto | alta
low: bajo | grave | graves
highest note: nota más alta | nota más aguda
lowest note: nota más baja | nota más grave
top note: nota de arriba
bottom note: nota de abajo
middle C: do central
note: nota
notes: notas
chord: acorde
chords: acordes
thumb: pulgar
finger: dedo
fingers: dedos
tune: melodía
the bass: el bajo
song: canción | pieza | tema
key: tonalidad
scale: escala
tempo: tempo
sharps: sostenidos
flats: bemoles
part: parte | part
verse: estrofa
chorus: estribillo
intro: introducción
bridge: puente
root position: posición fundamental | estado fundamental
inversion: inversión
octave: octava
octaves: octavas
fifth: quinta
third: tercera
fourth: cuarta
half step: semitono
whole step: tono
eighths: corcheas
quarters: negras
halves: blancas
sixteenths: semicorcheas
major seventh: mayor séptima | séptima mayor | mayor siete
minor seventh: menor séptima | séptima menor | menor siete
half-diminished: semidisminuido
major: mayor
minor: menor
diminished: disminuido | disminuida
augmented: aumentado | aumentada
seventh: séptima | séptima de dominante
ninth: novena
first: primer | primero | primera | primeros | primeras
second: segundo | segunda
third bar: tercer compás
fourth bar: cuarto compás
fifth bar: quinto compás
sixth bar: sexto compás
last: último | última | últimos | últimas
one: uno
two: dos
three: tres
four: cuatro
five: cinco
six: seis
seven: siete
eight: ocho
nine: nueve
ten: diez
eleven: once
twelve: doce
sixteen: dieciséis
we: nosotros
you: tú | vosotros
it: él | ella
count: cuenta | contamos | contad
beats to the minute: por minuto
"""
