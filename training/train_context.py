"""Train the network that listens over seconds (see ``valley/listening/context.py``), and write it as an ONNX file.

    python training/train_context.py DATA OUT.onnx [--check DATA2] [--minutes 40] [--threads 1]

Needs PyTorch and onnx; Valley itself does not need the first. The seed is fixed.
"""

from __future__ import annotations

import argparse
import time
from pathlib import Path

import numpy as np
import torch
from torch import nn
from torch.nn import functional as F

PITCHES = 84
POOL = 5  # frames: what lies seconds away is looked at ten times a second
WINDOW = 1000  # frames of one training example, twenty seconds


def logit(p: torch.Tensor) -> torch.Tensor:
    p = p.clamp(1e-3, 1 - 1e-3)
    return torch.log(p / (1 - p)) / 4


class Block(nn.Module):
    def __init__(self, channels: int, dilation: int) -> None:
        super().__init__()
        self.time = nn.Conv2d(channels, channels, (3, 1), padding=(dilation, 0), dilation=(dilation, 1))
        self.pitch = nn.Conv2d(channels, channels, (1, 13), padding=(0, 12), dilation=(1, 2))
        self.around = nn.Conv1d(2 * channels, channels, 3, padding=dilation, dilation=dilation)
        self.norms = nn.ModuleList([nn.BatchNorm2d(channels) for _ in range(2)])

    def forward(self, x: torch.Tensor) -> torch.Tensor:
        x = x + F.relu(self.norms[0](self.time(x)))
        everywhere = torch.cat([x.mean(3), x.amax(3)], dim=1)
        return x + F.relu(self.norms[1](self.pitch(x)) + self.around(everywhere)[:, :, :, None])


class Context(nn.Module):
    def __init__(self, channels: int = 24) -> None:
        super().__init__()
        signs = 9  # six of the ear, loudness, how much sounds above and below
        self.join = nn.Conv2d(2 * signs, channels, (3, 3), padding=(1, 1))
        self.join_norm = nn.BatchNorm2d(channels)
        self.place = nn.Parameter(torch.zeros(1, channels, 1, PITCHES))
        self.blocks = nn.ModuleList([Block(channels, d) for d in (1, 2, 4, 8, 16)])
        self.bring = nn.Conv2d(channels, 12, 1)
        self.near = nn.Conv2d(signs + 12, channels, (5, 1), padding=(2, 0))
        self.near_norm = nn.BatchNorm2d(channels)
        self.head = nn.Conv2d(channels, 6, 1)
        nn.init.zeros_(self.head.weight)
        nn.init.zeros_(self.head.bias)

    def forward(self, heard: torch.Tensor, loud: torch.Tensor) -> torch.Tensor:
        """Logits, shape (batch, 6, frames, pitches), from the ear's probabilities; frames a multiple of POOL."""
        sounds = heard[:, :1]
        below = (torch.cumsum(sounds, 3) - sounds) / 4
        above = (sounds.sum(3, keepdim=True) - torch.cumsum(sounds, 3)) / 4
        ear = logit(heard)
        x = torch.cat([ear, loud[:, None], below, above], dim=1)
        far = torch.cat([F.avg_pool2d(x, (POOL, 1)), F.max_pool2d(x, (POOL, 1))], dim=1)
        far = F.relu(self.join_norm(self.join(far))) + self.place
        for block in self.blocks:
            far = block(far)
        far = F.interpolate(self.bring(far), scale_factor=(POOL, 1), mode="nearest")
        near = F.relu(self.near_norm(self.near(torch.cat([x, far], dim=1))))
        return 4 * ear + self.head(near)


class Songs:
    """Random windows of songs, moved in pitch, stretched a little and dimmed."""

    def __init__(self, folder: Path, seed: int) -> None:
        self.rng = np.random.default_rng(seed)
        self.songs = []
        for path in sorted(folder.glob("*.npz")):
            with np.load(path) as f:
                self.songs.append((f["heard"], f["loud"], f["target"], f["judged"]))
        self.lengths = np.array([s[1].shape[0] for s in self.songs], float)

    def draw(self, size: int) -> tuple[torch.Tensor, ...]:
        rng = self.rng
        heard, loud = np.zeros((size, 6, WINDOW, PITCHES), np.float32), np.zeros((size, WINDOW, PITCHES), np.float32)
        target, judged = np.zeros((size, 6, WINDOW, PITCHES), np.float32), np.ones((size, 6), np.float32)
        inside = np.zeros((size, WINDOW), np.float32)
        for i, song in enumerate(rng.choice(len(self.songs), size, p=np.sqrt(self.lengths) / np.sqrt(self.lengths).sum())):
            h, level, t, judged[i] = self.songs[song]
            at = int(rng.integers(0, max(1, len(level) - WINDOW)))
            n = min(WINDOW, len(level) - at)
            shift = int(rng.integers(-6, 7))
            x, y, z = (np.roll(a, shift, -1).astype(np.float32) for a in (h[:, at : at + n], level[at : at + n], t[:, at : at + n]))
            gone = slice(0, shift) if shift > 0 else slice(PITCHES + shift, PITCHES) if shift < 0 else slice(0, 0)
            x[..., gone], y[..., gone], z[..., gone] = 0, 0, 0
            heard[i, :, :n], loud[i, :n], target[i, :, :n], inside[i, :n] = x, np.clip(y + rng.normal(0, 0.05), 0, 1.3), z / 2, 1
        return tuple(torch.from_numpy(a) for a in (heard, loud, target, judged, inside))


def loss_of(logits: torch.Tensor, target: torch.Tensor, judged: torch.Tensor, inside: torch.Tensor) -> torch.Tensor:
    weight = torch.ones_like(target)
    weight[:, 1::2] += 4 * target[:, 1::2]  # beginnings are rare
    weight = weight * judged[:, :, None, None] * inside[:, None, :, None]
    return (F.binary_cross_entropy_with_logits(logits, target, reduction="none") * weight).mean((0, 2, 3)).sum()


def check(model: Context | None, songs: Songs) -> str:
    """Frame F1 of each output at probability one half; without a model, of the ear by itself."""
    if model:
        model.eval()
    hits = np.zeros((6, 3))
    lost = 0.0
    with torch.no_grad():
        for h, level, c, judged in songs.songs:
            n = min(len(level), 3000) // POOL * POOL
            x = torch.from_numpy(h[None, :, :n].astype(np.float32))
            logits = model(x, torch.from_numpy(level[None, :n].astype(np.float32))) if model else 4 * logit(x)
            t = torch.from_numpy(c[None, :, :n].astype(np.float32) / 2)
            lost += float(loss_of(logits, t, torch.from_numpy(judged[None].astype(np.float32)), torch.ones(1, n)))
            p, t, near = logits[0].numpy() > 0, c[:, :n] > 1, c[:, :n] > 0
            for k in np.flatnonzero(judged):
                hits[k] += (p[k] & near[k]).sum(), p[k].sum(), (t[k] if k % 2 == 0 else near[k]).sum()
    if model:
        model.train()
    return " ".join(f"{2 * h / max(1, p + t):.3f}" for h, p, t in hits) + f"  loss {lost / len(songs.songs):.4f}"


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("data", type=Path)
    parser.add_argument("out", type=Path)
    parser.add_argument("--threads", type=int, default=1)
    parser.add_argument("--channels", type=int, default=24)
    parser.add_argument("--check", type=Path)
    parser.add_argument("--rate", type=float, default=3e-3)
    parser.add_argument("--minutes", type=float, default=40)
    args = parser.parse_args()
    torch.manual_seed(1)
    torch.set_num_threads(args.threads)
    songs = Songs(args.data, 1)
    unseen = Songs(args.check, 2) if args.check else None
    model = Context(args.channels).to(memory_format=torch.channels_last)
    if unseen:
        print("ear    ", check(None, unseen), flush=True)
    optimiser = torch.optim.AdamW(model.parameters(), args.rate, weight_decay=1e-3)
    began, running, step = time.time(), 0.0, 0
    print(f"{len(songs.songs)} songs, {songs.lengths.sum() / 3000:.0f} minutes, {sum(p.numel() for p in model.parameters())} weights", flush=True)
    while (done := (time.time() - began) / 60 / args.minutes) < 1:
        for group in optimiser.param_groups:
            group["lr"] = args.rate * min(1, (step + 1) / 100) * (0.5 + 0.5 * np.cos(np.pi * done)) + 1e-5
        heard, loud, *truth = songs.draw(4)
        loss = loss_of(model(heard, loud), *truth)
        optimiser.zero_grad()
        loss.backward()
        nn.utils.clip_grad_norm_(model.parameters(), 1.0)
        optimiser.step()
        running = loss.item() if step == 0 else 0.98 * running + 0.02 * loss.item()
        step += 1
        if step % 50 == 0:
            told = f"  unseen {check(model, unseen)}" if unseen and step % 400 == 0 else ""
            print(f"{step:6d} {time.time() - began:6.0f} s  loss {running:.4f}{told}", flush=True)
            torch.save(model.state_dict(), args.out.with_suffix(".pt"))
    if unseen:
        print("unseen ", check(model, unseen), flush=True)
    export(model, args.out)


class Probabilities(nn.Module):
    def __init__(self, model: Context) -> None:
        super().__init__()
        self.model = model

    def forward(self, heard: torch.Tensor, loud: torch.Tensor) -> torch.Tensor:
        return torch.sigmoid(self.model(heard, loud))


def export(model: Context, out: Path) -> None:
    model.eval()
    axes = {"heard": {2: "frames"}, "loud": {1: "frames"}, "lines": {2: "frames"}}
    example = (torch.zeros(1, 6, 400, PITCHES), torch.zeros(1, 400, PITCHES))
    names = {"input_names": ["heard", "loud"], "output_names": ["lines"], "dynamic_axes": axes, "opset_version": 13}
    torch.onnx.export(Probabilities(model), example, str(out), dynamo=False, **names)


if __name__ == "__main__":
    main()
