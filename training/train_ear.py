"""Train the ear (see ``valley/listening/ear.py``) on prepared songs, and write it as an ONNX file.

    python training/train_ear.py DATA OUT.onnx [--epochs 8] [--threads 2] [--check DATA2] [--from EARLIER]

Needs PyTorch and onnx; Valley itself does not need the first. The seed is fixed. With ``--from`` an ear is taught further: from weights that training left
(``.pt``), or from an ear without spans as it was written for Valley, whose weights are read back from the file and whose normalisation is begun anew where
its running means stood. What is kept is a running average of the weights (B. T. Polyak & A. B. Juditsky, 1992).
"""

from __future__ import annotations

import argparse
import time
from pathlib import Path

import numpy as np
import onnx
import torch
from onnx import numpy_helper
from torch import nn
from torch.nn import functional as F

PITCHES = 84
HARMONICS = (-12, 0, 12, 19, 24, 28, 31)  # semitones at which the spectrum is laid over itself
SHORT_HARMONICS = (0, 12, 19)
WINDOW = 320  # frames of one training example


def stack(x: torch.Tensor, steps: tuple[int, ...], bins: int) -> torch.Tensor:
    """(batch, frames, bins) → (batch, len(steps), frames, bins), shifted so that harmonics meet their fundamental."""
    layers = []
    for step in steps:
        k = step * bins
        layers.append(F.pad(x[:, :, k:], (0, k)) if k >= 0 else F.pad(x[:, :, :k], (-k, 0)))
    return torch.stack(layers, dim=1)


class Block(nn.Module):
    def __init__(self, channels: int, dilation: int) -> None:
        super().__init__()
        self.near = nn.Conv2d(channels, channels, (5, 3), padding=(2 * dilation, 1), dilation=(dilation, 1))
        self.near_norm = nn.BatchNorm2d(channels)
        self.wide = nn.Conv2d(channels, channels, (1, 13), padding=(0, 12), dilation=(1, 2))  # an octave either side
        self.wide_norm = nn.BatchNorm2d(channels)

    def forward(self, x: torch.Tensor) -> torch.Tensor:
        x = x + F.relu(self.near_norm(self.near(x)))
        return x + F.relu(self.wide_norm(self.wide(x)))


class Span(nn.Module):
    """What goes on around a moment at one key, a second to either side; gives nothing at first, so that an earlier ear hears on as it did."""

    def __init__(self, channels: int, dilation: int) -> None:
        super().__init__()
        self.along = nn.Conv2d(channels, channels, (5, 1), padding=(2 * dilation, 0), dilation=(dilation, 1), groups=channels)
        self.mix = nn.Conv2d(channels, 2 * channels, 1)
        self.out = nn.Conv2d(2 * channels, channels, 1)
        nn.init.zeros_(self.out.weight)
        nn.init.zeros_(self.out.bias)

    def forward(self, x: torch.Tensor) -> torch.Tensor:
        return x + self.out(F.relu(self.mix(self.along(x))))


class Ear(nn.Module):
    def __init__(self, channels: int = 24) -> None:
        super().__init__()
        self.long = nn.Conv2d(len(HARMONICS), 24, (3, 7), stride=(1, 3), padding=(1, 2))
        self.short = nn.Conv2d(len(SHORT_HARMONICS), 12, (5, 3), padding=(2, 1))
        self.stem_norm = nn.BatchNorm2d(36)
        self.join = nn.Conv2d(36, channels, (3, 3), padding=(1, 1))
        self.join_norm = nn.BatchNorm2d(channels)
        self.place = nn.Parameter(torch.zeros(1, channels, 1, PITCHES))
        self.blocks = nn.ModuleList([Block(channels, d) for d in (1, 4)])
        self.context = nn.Sequential(nn.Conv1d(2 * channels, 32, 9, padding=4), nn.ReLU(), nn.Conv1d(32, channels, 9, padding=12, dilation=3))
        self.spans = nn.ModuleList([Span(channels, d) for d in (8, 24)])
        self.last = Block(channels, 2)
        self.head = nn.Conv2d(channels, 6, 1)

    def forward(self, long: torch.Tensor, short: torch.Tensor) -> torch.Tensor:
        """Logits, shape (batch, 6, frames, pitches)."""
        x = torch.cat([self.long(stack(long, HARMONICS, 3)), self.short(stack(short, SHORT_HARMONICS, 1))], dim=1)
        x = F.relu(self.stem_norm(x))
        x = F.relu(self.join_norm(self.join(x))) + self.place
        for block in self.blocks:
            x = block(x)
        around = torch.cat([x.mean(3), x.amax(3)], dim=1)
        x = x + self.context(around)[:, :, :, None]
        for span in self.spans:
            x = span(x)
        return self.head(self.last(x))


class Songs:
    """Random windows of songs, moved in pitch, coloured and dirtied so that no instrument is learned by heart."""

    def __init__(self, folder: Path, seed: int) -> None:
        self.rng = np.random.default_rng(seed)
        self.songs = []
        for path in sorted(folder.glob("*.npz")):
            with np.load(path) as f:
                self.songs.append((f["long"], f["short"], f["target"], f["judged"]))
        self.lengths = np.array([len(s[0]) for s in self.songs], float)

    def frames(self) -> int:
        return int(self.lengths.sum())

    def draw(self, size: int) -> tuple[torch.Tensor, torch.Tensor, torch.Tensor, torch.Tensor]:
        rng = self.rng
        long, short = np.zeros((size, WINDOW, 3 * PITCHES), np.float32), np.zeros((size, WINDOW, PITCHES), np.float32)
        target, judged = np.zeros((size, 6, WINDOW, PITCHES), np.float32), np.ones((size, 6), np.float32)
        for i, song in enumerate(rng.choice(len(self.songs), size, p=self.lengths / self.lengths.sum())):
            a, b, c, judged[i] = self.songs[song]
            at = int(rng.integers(0, max(1, len(a) - WINDOW)))
            n = min(WINDOW, len(a) - at)
            shift = int(rng.integers(-5, 6))
            x, y, t = a[at : at + n].astype(np.float32), b[at : at + n].astype(np.float32), c[:, at : at + n].astype(np.float32) / 2
            x, y, t = np.roll(x, 3 * shift, 1), np.roll(y, shift, 1), np.roll(t, shift, 2)
            if shift > 0:
                x[:, : 3 * shift], y[:, :shift], t[:, :, :shift] = 0, 0, 0
            elif shift < 0:
                x[:, 3 * shift :], y[:, shift:], t[:, :, shift:] = 0, 0, 0
            curve = np.interp(np.linspace(0, 1, PITCHES), np.linspace(0, 1, 7), rng.normal(0, 0.07, 7)) + rng.normal(0, 0.05)
            floor = max(0.0, rng.normal(0.05, 0.08))
            x = np.maximum(x + np.repeat(curve, 3)[None] * (x > 0), floor * rng.uniform(0.8, 1))
            y = np.maximum(y + curve[None] * (y > 0), floor)
            long[i, :n], short[i, :n], target[i, :, :n] = np.clip(x, 0, 1.3), np.clip(y, 0, 1.3), t
        return torch.from_numpy(long), torch.from_numpy(short), torch.from_numpy(target), torch.from_numpy(judged)


def loss_of(logits: torch.Tensor, target: torch.Tensor, judged: torch.Tensor) -> torch.Tensor:
    weight = torch.ones_like(target)
    weight[:, 1::2] += 4 * target[:, 1::2]  # beginnings are rare
    weight = weight * judged[:, :, None, None]
    return (F.binary_cross_entropy_with_logits(logits, target, reduction="none") * weight).mean((0, 2, 3)).sum()


def check(model: Ear, songs: Songs) -> str:
    """Frame F1 of each output at probability one half."""
    model.eval()
    hits = np.zeros((6, 3))
    with torch.no_grad():
        for a, b, c, judged in songs.songs:
            n = min(len(a), 1500)
            p = model(torch.from_numpy(a[None, :n].astype(np.float32)), torch.from_numpy(b[None, :n].astype(np.float32)))[0].numpy() > 0
            t = c[:, :n] > 1
            near = c[:, :n] > 0
            for k in np.flatnonzero(judged):
                hits[k] += (p[k] & near[k]).sum(), p[k].sum(), (t[k] if k % 2 == 0 else near[k]).sum()
    model.train()
    return " ".join(f"{2 * h / max(1, p + t):.3f}" for h, p, t in hits)


def remember(model: Ear, earlier: Path) -> None:
    """Weights of an ear that was written as ONNX, where normalisation is folded into the convolution before it."""
    held = {i.name: torch.from_numpy(numpy_helper.to_array(i).copy()) for i in onnx.load(str(earlier)).graph.initializer}
    state = {name.removeprefix("ear."): value for name, value in held.items() if name.startswith("ear.")}
    model.load_state_dict(state, strict=False)
    folded = [held[name] for name in held if name.startswith("onnx::Conv")]
    blocks = [*model.blocks, model.last]
    layers = [(model.join, model.join_norm), *(pair for b in blocks for pair in ((b.near, b.near_norm), (b.wide, b.wide_norm)))]
    if len(folded) != 2 * len(layers):
        raise ValueError(f"{earlier} holds {len(folded) // 2} folded layers, and this ear has {len(layers)}")
    for (conv, _), weight, bias in zip(layers, folded[::2], folded[1::2], strict=True):
        conv.load_state_dict({"weight": weight, "bias": bias})


def settle(model: Ear, songs: Songs) -> None:
    """Means and spreads of what each folded layer gives, so that its normalisation changes nothing at first."""
    norms = [m for name, m in model.named_modules() if isinstance(m, nn.BatchNorm2d) and name != "stem_norm"]

    def measure(norm: nn.BatchNorm2d, inputs: tuple[torch.Tensor]) -> None:
        x = inputs[0]
        norm.running_mean.copy_(x.mean((0, 2, 3)))
        norm.running_var.copy_(x.var((0, 2, 3)))
        norm.weight.data.copy_((norm.running_var + norm.eps).sqrt())
        norm.bias.data.copy_(norm.running_mean)

    hooks = [norm.register_forward_pre_hook(measure) for norm in norms]
    model.eval()
    with torch.no_grad():
        model(*songs.draw(24)[:2])
    for hook in hooks:
        hook.remove()
    model.train()


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("data", type=Path)
    parser.add_argument("out", type=Path)
    parser.add_argument("--epochs", type=float, default=8)
    parser.add_argument("--threads", type=int, default=2)
    parser.add_argument("--channels", type=int, default=24)
    parser.add_argument("--check", type=Path)
    parser.add_argument("--from", dest="earlier", type=Path)
    parser.add_argument("--rate", type=float, default=3e-3)
    parser.add_argument("--minutes", type=float, default=1e9, help="stop the schedule so that it ends in this time")
    args = parser.parse_args()
    torch.manual_seed(1)
    torch.set_num_threads(args.threads)
    songs = Songs(args.data, 1)
    unseen = Songs(args.check, 2) if args.check else None
    model = Ear(args.channels)
    if args.earlier and args.earlier.suffix == ".pt":
        model.load_state_dict(torch.load(args.earlier))
        if unseen:
            print("earlier", check(model, unseen), flush=True)
    elif args.earlier:
        remember(model, args.earlier)
        settle(model, songs)
        if unseen:
            print("earlier", check(model, unseen), flush=True)
    model = model.to(memory_format=torch.channels_last)  # a quarter quicker on two cores
    size = 6
    steps = int(args.epochs * songs.frames() / (size * WINDOW))
    optimiser = torch.optim.AdamW(model.parameters(), args.rate, weight_decay=1e-4)
    steady = torch.optim.swa_utils.AveragedModel(model, multi_avg_fn=torch.optim.swa_utils.get_ema_multi_avg_fn(0.998), use_buffers=True)
    began, running = time.time(), 0.0
    print(f"{len(songs.songs)} songs, {songs.frames() / 3000:.0f} minutes, {steps} steps, {sum(p.numel() for p in model.parameters())} weights", flush=True)
    for step in range(steps):
        spent = (time.time() - began) / 60 / args.minutes
        done = max(step / steps, spent)
        if done >= 1:
            break
        for group in optimiser.param_groups:
            group["lr"] = args.rate * min(1, (step + 1) / 150) * (0.5 + 0.5 * np.cos(np.pi * done)) + 1e-5
        batch = songs.draw(size)
        loss = loss_of(model(*batch[:2]), *batch[2:])
        optimiser.zero_grad()
        loss.backward()
        nn.utils.clip_grad_norm_(model.parameters(), 1.0)
        optimiser.step()
        steady.update_parameters(model)
        running = loss.item() if step == 0 else 0.98 * running + 0.02 * loss.item()
        if step % 100 == 99:
            told = f"  unseen {check(steady.module, unseen)}" if unseen and step % 600 == 599 else ""
            print(f"{step + 1:6d} {time.time() - began:6.0f} s  loss {running:.4f}{told}", flush=True)
            torch.save(steady.module.state_dict(), args.out.with_suffix(".pt"))
    if unseen:
        print("unseen", check(steady.module, unseen), flush=True)
    export(steady.module, args.out)


class Probabilities(nn.Module):
    def __init__(self, ear: Ear) -> None:
        super().__init__()
        self.ear = ear

    def forward(self, long: torch.Tensor, short: torch.Tensor) -> torch.Tensor:
        return torch.sigmoid(self.ear(long, short))


def export(model: Ear, out: Path) -> None:
    model.eval()
    axes = {"long": {1: "frames"}, "short": {1: "frames"}, "heard": {2: "frames"}}
    example = (torch.zeros(1, 400, 3 * PITCHES), torch.zeros(1, 400, PITCHES))
    names = {"input_names": ["long", "short"], "output_names": ["heard"], "dynamic_axes": axes, "opset_version": 13}
    torch.onnx.export(Probabilities(model), example, str(out), dynamo=False, **names)


if __name__ == "__main__":
    main()
