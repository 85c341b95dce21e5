"""Pictures of a VP9 film in which nothing moves: the one before is shown once more, by a frame of one byte, instead of being coded anew.

The byte is the uncompressed header of the VP9 bitstream specification (version 0.6, section 6.2) with ``show_existing_frame``: two bits of
frame marker, two of profile 0, the flag, and the slot to show, in which the coder here keeps its last frame. The alpha channel is a stream of
its own in the packet's side data, and is shown again in the same way.
"""

from __future__ import annotations

from typing import Any, Final, get_args

from av.packet import Packet, PacketSideData, PktSideDataT

from valley.fraction import Fraction

SHOWN_AGAIN: Final = bytes([0b10_00_1_000])
SETTLES: Final = 1  # pictures of a scene that are coded: at this quality a second one mends nothing that is seen
_ALPHA: Final = (1).to_bytes(8, "big") + SHOWN_AGAIN  # the side data begins with the number of what it adds
_KIND: Final = get_args(PktSideDataT).index("matroska_block_additional")


def show_again(stream: Any, number: int, rate: int) -> Any:
    """The picture before, once more, as picture ``number`` of a stream with an alpha channel at so many pictures a second."""
    packet: Any = Packet(SHOWN_AGAIN)
    packet.stream, packet.pts, packet.dts, packet.duration, packet.time_base = stream, number, number, 1, Fraction(1, rate)
    alpha = PacketSideData(_KIND, len(_ALPHA))  # type: ignore[call-arg]  # its stub tells of no arguments, its class takes kind and size
    alpha.update(_ALPHA)
    packet.set_sidedata(alpha, move=True)
    return packet
