"""Train the pulse network (see ``valley/listening/pulse.py``): beats and downbeats of every frame.

/usr/bin/python3 training/train_pulse.py DATA OUT.onnx [--check DATA2]
"""

from __future__ import annotations

import argparse
import time
from pathlib import Path

import numpy as np
import torch
from torch import nn
from torch.nn import functional as F

SIGNS, WINDOW = 14, 2000


class Layer(nn.Module):
    def __init__(self, channels: int, dilation: int) -> None:
        super().__init__()
        self.conv = nn.Conv1d(channels, channels, 5, padding=2 * dilation, dilation=dilation)
        self.norm = nn.BatchNorm1d(channels)
        self.mix = nn.Conv1d(channels, channels, 1)
        self.drop = nn.Dropout(0.1)

    def forward(self, x: torch.Tensor) -> torch.Tensor:
        return x + self.mix(self.drop(F.elu(self.norm(self.conv(x)))))


class Pulse(nn.Module):
    def __init__(self, channels: int = 24) -> None:
        super().__init__()
        self.norm = nn.BatchNorm1d(SIGNS)
        self.stem = nn.Conv1d(SIGNS, channels, 5, padding=2)
        self.layers = nn.ModuleList([Layer(channels, 2**k) for k in range(10)])
        self.head = nn.Conv1d(channels, 2, 1)

    def forward(self, signs: torch.Tensor) -> torch.Tensor:
        """(batch, frames, signs) → logits (batch, 2, frames)."""
        x = F.elu(self.stem(self.norm(signs.transpose(1, 2))))
        for layer in self.layers:
            x = layer(x)
        return self.head(x)


class Songs:
    def __init__(self, folder: Path, seed: int) -> None:
        self.rng = np.random.default_rng(seed)
        self.songs = []
        for path in sorted(folder.glob("*.npz")):
            with np.load(path) as f:
                self.songs.append((f["pulse"].astype(np.float32), f["beats"] * f["fps"], f["downbeats"] * f["fps"]))
        self.lengths = np.array([s[0].shape[1] for s in self.songs], float)

    def draw(self, size: int) -> tuple[torch.Tensor, torch.Tensor]:
        rng = self.rng
        x, y = np.zeros((size, WINDOW, SIGNS), np.float32), np.zeros((size, 2, WINDOW), np.float32)
        for i, song in enumerate(rng.choice(len(self.songs), size, p=self.lengths / self.lengths.sum())):
            looks, beats, downbeats = self.songs[song]
            signs = looks[rng.integers(len(looks))]
            rate = float(np.exp(rng.uniform(-0.18, 0.18)))  # the same song faster or slower
            span = int(WINDOW * rate)
            at = int(rng.integers(0, max(1, len(signs) - span)))
            place = at + np.arange(WINDOW) * rate
            inside = place < len(signs) - 1
            whole = np.minimum(place.astype(int), len(signs) - 2)
            part = (place - whole)[:, None]
            x[i] = ((1 - part) * signs[whole] + part * signs[whole + 1]) * inside[:, None]
            x[i] *= np.exp(rng.normal(0, 0.15, SIGNS))
            if rng.random() < 0.25:
                x[i, :, :4] *= rng.uniform(0.2, 0.8)  # drums far away
            for k, times in enumerate((beats, downbeats)):
                frames = np.round((times - at) / rate).astype(int)
                for near, value in ((-1, 0.5), (1, 0.5), (0, 1.0)):
                    f = frames + near
                    y[i, k, f[(f >= 0) & (f < WINDOW)]] = value
        return torch.from_numpy(x), torch.from_numpy(y)


def check(model: Pulse, songs: Songs) -> str:
    model.eval()
    total = np.zeros(2)
    with torch.no_grad():
        for looks, beats, downbeats in songs.songs:
            signs = looks[len(looks) // 2]
            logits = model(torch.from_numpy(signs[None]))[0]
            for k, times in enumerate((beats, downbeats)):
                y = torch.zeros(len(signs))
                f = np.round(times).astype(int)
                y[torch.from_numpy(f[f < len(signs)])] = 1.0
                total[k] += float(F.binary_cross_entropy_with_logits(logits[k], y))
    model.train()
    return " ".join(f"{v / len(songs.songs):.4f}" for v in total)


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("data", type=Path)
    parser.add_argument("out", type=Path)
    parser.add_argument("--steps", type=int, default=2500)
    parser.add_argument("--check", type=Path)
    args = parser.parse_args()
    torch.manual_seed(2)
    torch.set_num_threads(2)
    songs = Songs(args.data, 1)
    unseen = Songs(args.check, 2) if args.check else None
    model = Pulse()
    optimiser = torch.optim.AdamW(model.parameters(), 4e-3, weight_decay=1e-3)
    began, running = time.time(), 0.0
    for step in range(args.steps):
        for group in optimiser.param_groups:
            group["lr"] = 4e-3 * min(1, (step + 1) / 100) * (0.5 + 0.5 * np.cos(np.pi * step / args.steps)) + 1e-5
        x, y = songs.draw(8)
        loss = (F.binary_cross_entropy_with_logits(model(x), y, reduction="none") * (1 + 3 * y)).mean((0, 2)).sum()
        optimiser.zero_grad()
        loss.backward()
        nn.utils.clip_grad_norm_(model.parameters(), 1.0)
        optimiser.step()
        running = float(loss) if step == 0 else 0.98 * running + 0.02 * float(loss)
        if step % 250 == 249:
            print(f"{step + 1:5d} {time.time() - began:5.0f} s  loss {running:.4f}  {check(model, unseen) if unseen else ''}", flush=True)
    model.eval()

    class Probabilities(nn.Module):
        def __init__(self) -> None:
            super().__init__()
            self.pulse = model

        def forward(self, signs: torch.Tensor) -> torch.Tensor:
            return torch.sigmoid(self.pulse(signs))

    torch.onnx.export(
        Probabilities(),
        (torch.zeros(1, 3000, SIGNS),),
        str(args.out),
        input_names=["signs"],
        output_names=["pulse"],
        dynamic_axes={"signs": {1: "frames"}, "pulse": {2: "frames"}},
        opset_version=13,
        dynamo=False,
    )


if __name__ == "__main__":
    main()
