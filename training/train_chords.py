"""Train the chord network (see ``valley/listening/chords.py``): which chord over which bass in every interval.

    /usr/bin/python3 training/train_chords.py DATA VOCABULARY.npz OUT.onnx [--check DATA2]

Every layer is the same for all twelve keys: convolution around the circle of pitch classes. VOCABULARY.npz holds, for
every row, root, quality, bass and the interval of the bass above the root in semitones (``training/vocabulary.py``).
"""

from __future__ import annotations

import argparse
import time
from pathlib import Path

import numpy as np
import torch
from torch import nn
from torch.nn import functional as F

CHANNELS, WINDOW = 14, 96


class Circle(nn.Module):
    """Convolution over time and all the way round the pitch classes."""

    def __init__(self, inside: int, outside: int, times: int, dilation: int = 1) -> None:
        super().__init__()
        self.conv = nn.Conv2d(inside, outside, (times, 12), padding=(dilation * (times // 2), 0), dilation=(dilation, 1))

    def forward(self, x: torch.Tensor) -> torch.Tensor:
        return self.conv(torch.cat([x, x[..., :11]], dim=3))


class Chords(nn.Module):
    def __init__(self, roots: np.ndarray, qualities: np.ndarray, basses: np.ndarray, intervals: np.ndarray, hidden: int = 40) -> None:
        super().__init__()
        self.count = int(qualities.max()) + 1
        for name, values in (("roots", roots), ("qualities", qualities), ("basses", basses), ("intervals", intervals)):
            self.register_buffer(name, torch.from_numpy(values.astype(np.int64)))
        self.norm = nn.BatchNorm2d(CHANNELS)
        self.one = Circle(CHANNELS, hidden, 3)
        self.two = Circle(hidden, hidden, 3)
        self.three = Circle(hidden, hidden, 3, 2)
        self.norms = nn.ModuleList([nn.BatchNorm2d(hidden) for _ in range(3)])
        self.drop = nn.Dropout(0.4)
        self.quality = Circle(hidden, self.count, 1)
        self.bass = Circle(hidden, 1, 1)
        self.pair = nn.Parameter(torch.zeros(self.count * 12))
        self.none = nn.Linear(hidden, 1)

    def forward(self, views: torch.Tensor) -> torch.Tensor:
        """(batch, intervals, channels, 12) → log probabilities (batch, intervals, rows), no chord last."""
        x = self.norm(views.transpose(1, 2))
        x = F.elu(self.norms[0](self.one(x)))
        x = x + self.drop(F.elu(self.norms[1](self.two(x))))
        x = x + self.drop(F.elu(self.norms[2](self.three(x))))
        quality = self.quality(x).transpose(1, 2)  # batch, intervals, qualities, 12
        flat = quality.reshape(quality.shape[0], quality.shape[1], self.count * 12)
        bass = self.bass(x)[:, 0]
        rows = flat[:, :, self.qualities * 12 + self.roots] + bass[:, :, self.basses] + self.pair[self.qualities * 12 + self.intervals]
        none = self.none(x.mean(3).transpose(1, 2))
        return F.log_softmax(torch.cat([rows, none], dim=2), dim=2)


def add_context(views: np.ndarray) -> np.ndarray:
    """As ``valley.listening.harmony.add_context``, which the test suite holds against this one."""
    pitch = views[:, 0] + views[:, 1]
    summed = np.concatenate([np.zeros((1, 12), np.float32), np.cumsum(pitch, axis=0)])
    n = len(views)
    index = np.arange(n)
    before, after = np.maximum(index - 8, 0), np.minimum(index + 9, n)
    past = (summed[index] - summed[before]) / np.maximum(index - before, 1)[:, None]
    coming = (summed[after] - summed[index + 1]) / np.maximum(after - index - 1, 1)[:, None]
    whole = np.broadcast_to(pitch.mean(0), pitch.shape)
    low = np.broadcast_to(views[:, 4].mean(0), pitch.shape)
    return np.concatenate([views, np.stack([past, coming, whole, low], axis=1)], axis=1).astype(np.float32)


class Songs:
    """Prepared songs; those that are scores (``prepare_lines.py``) are drawn ``scores`` times as often."""

    def __init__(self, folder: Path, seed: int, scores: float = 1.0) -> None:
        self.rng = np.random.default_rng(seed)
        self.songs, often = [], []
        for path in sorted(folder.glob("*.npz")):
            with np.load(path) as f:
                for views in f["views"].astype(np.float32):
                    self.songs.append((add_context(views), f["rows"].astype(np.int64)))
                    often.append(scores if f["score"] else 1.0)
        self.lengths = np.array([len(s[1]) for s in self.songs], float) * np.array(often)

    def draw(self, size: int) -> tuple[torch.Tensor, torch.Tensor]:
        rng = self.rng
        x, y = np.zeros((size, WINDOW, CHANNELS, 12), np.float32), np.full((size, WINDOW), -1, np.int64)
        for i, song in enumerate(rng.choice(len(self.songs), size, p=self.lengths / self.lengths.sum())):
            views, rows = self.songs[song]
            at = int(rng.integers(0, max(1, len(rows) - WINDOW)))
            n = min(WINDOW, len(rows) - at)
            x[i, :n], y[i, :n] = views[at : at + n], rows[at : at + n]
            # Songs are few and chords are seen many times: what is learned by heart is worth nothing elsewhere.
            x[i] *= np.exp(rng.normal(0, 0.2, (CHANNELS, 1)))
            x[i] += rng.normal(0, 0.06, x[i].shape)
            for view in range(10):
                if rng.random() < 0.12:
                    x[i, :, view] = 0  # a view is blind
        return torch.from_numpy(x), torch.from_numpy(y)


def check(model: Chords, songs: Songs) -> str:
    model.eval()
    loss = right = root = total = 0.0
    with torch.no_grad():
        for views, rows in songs.songs[1::4]:  # the registers where they are
            p = model(torch.from_numpy(views[None]))[0]
            y = torch.from_numpy(rows)
            known = y >= 0
            loss += float(F.nll_loss(p[known], y[known], reduction="sum"))
            best = p.argmax(1)
            right += float((best[known] == y[known]).sum())
            named = torch.cat([model.roots, torch.tensor([-1])])
            root += float((named[best[known]] == named[y[known]]).sum())
            total += float(known.sum())
    model.train()
    return f"unseen {loss / total:.3f} right {right / total:.3f} root {root / total:.3f}"


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("data", type=Path)
    parser.add_argument("vocabulary", type=Path)
    parser.add_argument("out", type=Path)
    parser.add_argument("--steps", type=int, default=700)
    parser.add_argument("--check", type=Path)
    parser.add_argument("--scores", type=float, default=1.0, help="how much oftener a score is drawn than a made-up song")
    parser.add_argument("--seed", type=int, default=3)
    args = parser.parse_args()
    torch.manual_seed(args.seed)
    torch.set_num_threads(2)
    songs = Songs(args.data, 1, args.scores)
    unseen = Songs(args.check, 2) if args.check else None
    with np.load(args.vocabulary) as f:
        model = Chords(f["roots"], f["qualities"], f["basses"], f["intervals"])
    optimiser = torch.optim.AdamW(model.parameters(), 3e-3, weight_decay=3e-2)
    began, running = time.time(), 0.0
    for step in range(args.steps):
        for group in optimiser.param_groups:
            group["lr"] = 3e-3 * min(1, (step + 1) / 100) * (0.5 + 0.5 * np.cos(np.pi * step / args.steps)) + 1e-5
        x, y = songs.draw(16)
        loss = F.nll_loss(model(x).transpose(1, 2), y, ignore_index=-1)
        optimiser.zero_grad()
        loss.backward()
        nn.utils.clip_grad_norm_(model.parameters(), 1.0)
        optimiser.step()
        running = float(loss) if step == 0 else 0.98 * running + 0.02 * float(loss)
        if step % 100 == 99:
            print(f"{step + 1:5d} {time.time() - began:5.0f} s  loss {running:.4f}  {check(model, unseen) if unseen else ''}", flush=True)
    model.eval()
    torch.onnx.export(
        model,
        (torch.zeros(1, 200, CHANNELS, 12),),
        str(args.out),
        input_names=["views"],
        output_names=["rows"],
        dynamic_axes={"views": {1: "intervals"}, "rows": {1: "intervals"}},
        opset_version=13,
        dynamo=False,
    )


if __name__ == "__main__":
    main()
