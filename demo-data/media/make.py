#!/usr/bin/env python3
"""Draws the pictures of Kelpwick Harbour Days: SVG drawings, and what is painted from them by over-again-cli.

    demo-data/media/make.py [over-again-cli]

The drawings are written beside this file; with the program they become quay-strip.png, paper.png, salt.png and swinging-lantern.webm
too, and a few bars of a brass band become brass.ogg (ffmpeg encodes them).
"""
import math
import pathlib
import random
import struct
import subprocess
import sys
import tempfile

HERE = pathlib.Path(__file__).parent


def svg(width, height, body, defs=""):
    return (f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" '
            f'viewBox="0 0 {width} {height}">{"<defs>" + defs + "</defs>" if defs else ""}{body}</svg>\n')


def brush(points, colour, rnd, wobble=3.0, opacity=0.9):
    """A polygon as a hand would paint it: twice, each time a little elsewhere."""
    out = ""
    for _ in range(2):
        moved = " ".join(f"{x + rnd.uniform(-wobble, wobble):.1f},{y + rnd.uniform(-wobble, wobble):.1f}" for x, y in points)
        out += f'<polygon points="{moved}" fill="{colour}" fill-opacity="{opacity}"/>'
    return out


def quay(width=2880, height=560, seed=7):
    """Houses on the quay, boats before them, and the sky darkening to the right: its ends do not meet."""
    rnd = random.Random(seed)
    ground = height * 0.70
    sky = ('<linearGradient id="s" x1="0" y1="0" x2="1" y2="0.25"><stop offset="0" stop-color="#f3d9a4"/>'
           '<stop offset="0.55" stop-color="#eaa07a"/><stop offset="1" stop-color="#8c6f8e"/></linearGradient>'
           '<linearGradient id="w" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="#2f6f74"/>'
           '<stop offset="1" stop-color="#123944"/></linearGradient>')
    body = f'<rect width="{width}" height="{height}" fill="url(#s)"/>'
    # Hills far away.
    for base, colour, step in ((0.46, "#b98f8c", 220), (0.54, "#8c7b82", 150)):
        line = [(-60, height)]
        x = -60
        while x < width + step:
            line.append((x, height * base - rnd.uniform(0, 70)))
            x += step * rnd.uniform(0.6, 1.3)
        line.append((width + 60, height))
        body += brush(line, colour, rnd, 4, 0.7)
    # Houses.
    walls = ["#c9543b", "#e3b04b", "#efe3c8", "#4f8a8b", "#b96a4a", "#d98f6a", "#3f6a7d", "#e8c98f"]
    roofs = ["#4a3038", "#5d3a36", "#33424d", "#6b4436"]
    x = -30.0
    while x < width - 60:
        w = rnd.uniform(90, 170)
        h = rnd.uniform(120, 235)
        top = ground - h
        colour = rnd.choice(walls)
        body += brush([(x, ground), (x, top), (x + w, top), (x + w, ground)], colour, rnd)
        if rnd.random() < 0.6:
            body += brush([(x - 6, top), (x + w / 2, top - rnd.uniform(38, 70)), (x + w + 6, top)], rnd.choice(roofs), rnd)
        else:
            body += brush([(x - 5, top), (x - 5, top - 16), (x + w + 5, top - 16), (x + w + 5, top)], rnd.choice(roofs), rnd)
            body += brush([(x + w * 0.2, top - 14), (x + w * 0.2, top - 46), (x + w * 0.32, top - 46), (x + w * 0.32, top - 14)], "#5d3a36", rnd, 2)
        columns = max(2, int(w // 42))
        rows = max(2, int(h // 62))
        for i in range(columns):
            for j in range(rows):
                wx = x + w * (i + 0.5) / columns - 9
                wy = top + 16 + (h - 40) * j / rows
                lit = rnd.random() < 0.45
                body += brush([(wx, wy), (wx + 18, wy), (wx + 18, wy + 27), (wx, wy + 27)], "#ffe09a" if lit else "#27414b", rnd, 1.2, 0.85)
        x += w + rnd.uniform(-4, 22)
    # The quay's wall, the water, its lights.
    body += brush([(-20, ground), (width + 20, ground), (width + 20, ground + 34), (-20, ground + 34)], "#5b5350", rnd, 2)
    for k in range(int(width / 46)):
        bx = k * 46 + rnd.uniform(-6, 6)
        body += f'<line x1="{bx:.0f}" y1="{ground + 2:.0f}" x2="{bx:.0f}" y2="{ground + 32:.0f}" stroke="#463f3d" stroke-width="2" stroke-opacity="0.6"/>'
    body += f'<rect y="{ground + 32:.0f}" width="{width}" height="{height - ground:.0f}" fill="url(#w)"/>'
    for _ in range(int(width / 7)):
        wx = rnd.uniform(-40, width)
        wy = ground + 38 + (height - ground - 40) * rnd.random() ** 1.4
        length = rnd.uniform(14, 70)
        colour = rnd.choice(["#f3c98a", "#6fb0a8", "#0f2f3a", "#d98f6a", "#8fc4b7"])
        body += (f'<path d="M{wx:.0f} {wy:.0f} q{length / 2:.0f} {rnd.uniform(-4, 4):.1f} {length:.0f} 0" stroke="{colour}" '
                 f'stroke-width="{rnd.uniform(1.5, 4):.1f}" stroke-opacity="{rnd.uniform(0.25, 0.7):.2f}" fill="none" stroke-linecap="round"/>')
    # Boats.
    for bx in range(160, width - 200, 410):
        bx += rnd.uniform(-70, 70)
        by = ground + rnd.uniform(62, 100)
        hull = rnd.choice(["#b23a32", "#efe3c8", "#2b5561", "#e3b04b"])
        mast = rnd.uniform(150, 210)
        body += f'<line x1="{bx + 62:.0f}" y1="{by:.0f}" x2="{bx + 60:.0f}" y2="{by - mast:.0f}" stroke="#3a2c2c" stroke-width="5"/>'
        body += brush([(bx + 66, by - 12), (bx + 64, by - mast + 10), (bx + 138, by - 18)], "#f4e9d2", rnd, 2)
        body += brush([(bx + 54, by - 14), (bx + 56, by - mast + 40), (bx + 6, by - 16)], "#e8d6b0", rnd, 2)
        body += brush([(bx, by - 10), (bx + 150, by - 10), (bx + 124, by + 22), (bx + 22, by + 22)], hull, rnd, 2)
    return svg(width, height, body, sky)


def gull():
    """A gull, wings spread, before nothing."""
    body = (
        '<path d="M320 214 C270 150 196 96 96 92 C60 92 30 104 12 122 C70 112 128 132 176 172 C214 204 256 236 306 246 Z" fill="#f7f3ea"/>'
        '<path d="M12 122 C30 104 60 92 96 92 C120 93 142 97 162 103 C120 104 66 108 12 122 Z" fill="#2c3a44"/>'
        '<path d="M330 210 C378 138 452 78 548 70 C586 68 612 78 628 96 C570 90 516 114 472 158 C438 196 396 236 344 246 Z" fill="#efe9dc"/>'
        '<path d="M628 96 C612 78 586 68 548 70 C526 72 506 76 488 82 C534 82 580 86 628 96 Z" fill="#2c3a44"/>'
        '<path d="M286 250 C296 214 330 196 356 206 C380 214 386 236 372 254 C352 280 316 300 262 318 C248 322 240 316 250 306 C264 292 278 274 286 250 Z" fill="#fdfaf3"/>'
        '<path d="M262 318 C248 322 240 316 250 306 L208 330 L214 340 L226 336 L232 348 Z" fill="#d9d2c3"/>'
        '<circle cx="362" cy="222" r="5" fill="#22303a"/>'
        '<path d="M378 226 C394 226 406 232 410 240 C398 244 384 242 374 238 Z" fill="#e39a2d"/>'
        '<path d="M404 236 C409 238 411 243 409 247 C404 246 400 242 399 238 Z" fill="#b23a32"/>'
        '<path d="M300 244 C330 254 356 248 372 236" fill="none" stroke="#cfc7b6" stroke-width="3"/>'
        '<path d="M118 118 C170 132 220 168 262 214 M516 98 C470 116 420 158 384 206" fill="none" stroke="#d6cebd" stroke-width="4" stroke-linecap="round"/>')
    return svg(640, 400, body)


def rope(width=480, height=96):
    """A rope that goes on to both sides without an edge."""
    strands = 8
    step = width / strands
    body = f'<rect width="{width}" height="{height}" fill="#6b4a2c"/>'
    for k in range(-2, strands + 2):
        x = k * step
        body += (f'<path d="M{x:.1f} 96 C{x + 8:.1f} 50 {x + 40:.1f} 46 {x + 52:.1f} 0 L{x + 104:.1f} 0 C{x + 92:.1f} 46 {x + 60:.1f} 50 {x + 52:.1f} 96 Z" '
                 f'fill="#c99a5b" stroke="#4f341d" stroke-width="3"/>')
        for j, colour in enumerate(("#e2bd82", "#b9874a", "#dcb271", "#a8773d")):
            o = 11 + j * 11
            body += (f'<path d="M{x + o:.1f} 96 C{x + o + 8:.1f} 52 {x + o + 38:.1f} 44 {x + o + 50:.1f} 0" fill="none" stroke="{colour}" '
                     f'stroke-width="3" stroke-opacity="0.85"/>')
    shade = ('<linearGradient id="r" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="#fff2d0" stop-opacity="0.15"/>'
             '<stop offset="0.35" stop-color="#fff2d0" stop-opacity="0.35"/><stop offset="1" stop-color="#1c0f06" stop-opacity="0.6"/></linearGradient>')
    body += f'<rect width="{width}" height="{height}" fill="url(#r)"/>'
    return svg(width, height, body, shade)


def lantern():
    """A paper lantern with its light, for repeating."""
    defs = ('<radialGradient id="g"><stop offset="0" stop-color="#ffd98a" stop-opacity="0.55"/><stop offset="1" stop-color="#ffb347" stop-opacity="0"/></radialGradient>'
            '<linearGradient id="p" x1="0" y1="0" x2="1" y2="0"><stop offset="0" stop-color="#c8452f"/><stop offset="0.5" stop-color="#f08a4b"/>'
            '<stop offset="1" stop-color="#b5382a"/></linearGradient>')
    body = '<circle cx="120" cy="130" r="118" fill="url(#g)"/><line x1="120" y1="14" x2="120" y2="62" stroke="#2b2320" stroke-width="3"/>'
    body += '<rect x="96" y="58" width="48" height="12" rx="4" fill="#2b2320"/><rect x="98" y="196" width="44" height="12" rx="4" fill="#2b2320"/>'
    body += '<path d="M100 70 C48 96 48 170 100 198 L140 198 C192 170 192 96 140 70 Z" fill="url(#p)"/>'
    for o in (0, 17, 34):
        body += f'<path d="M{104 + o * 0.2:.0f} 70 C{66 + o:.0f} 100 {66 + o:.0f} 168 {104 + o * 0.2:.0f} 198 M{136 - o * 0.2:.0f} 70 C{174 - o:.0f} 100 {174 - o:.0f} 168 {136 - o * 0.2:.0f} 198" fill="none" stroke="#ffd7a0" stroke-opacity="0.45" stroke-width="2"/>'
    body += '<path d="M112 208 L108 236 M120 208 L120 244 M128 208 L132 236" stroke="#e3b04b" stroke-width="4" stroke-linecap="round"/>'
    return svg(240, 260, body, defs)


def still(program, scene, out):
    with tempfile.TemporaryDirectory() as folder:
        path = pathlib.Path(folder) / "s.overagain"
        path.write_text(scene)
        subprocess.run([program, "still", str(path), "-o", str(out)], check=True)


RATE = 48000
BEAT = 60 / 120  # four bars of four beats: eight seconds


def horn(out, begin, length, hertz, loud, soft=6):
    """A note of brass: harmonics that fade the faster the higher they are, swelling in and dying away, round the joint."""
    n = int(length * RATE)
    first = int(begin * RATE)
    for k in range(n):
        t = k / RATE
        swell = min(1, t / 0.03) * min(1, (length - t) / 0.08) * (0.75 + 0.25 * math.exp(-t * 3))
        wobble = 2 * math.pi * hertz * (t + 0.0009 * math.sin(2 * math.pi * 5 * t) * min(1, t * 2) / 5)
        v = sum(math.sin(h * wobble) / h ** (1 + h / soft) for h in range(1, 7))
        out[(first + k) % len(out)] += loud * swell * v


def drum(out, begin, hertz, loud, rnd, hiss=0.0):
    for k in range(int(0.22 * RATE)):
        t = k / RATE
        v = math.sin(2 * math.pi * hertz * (t + 0.004 * math.exp(-t * 60))) * math.exp(-t * 18) + hiss * rnd.uniform(-1, 1) * math.exp(-t * 34)
        out[(int(begin * RATE) + k) % len(out)] += loud * v


def brass():
    """Oom-pah and a tune over it, eight seconds that go round."""
    rnd = random.Random(4)
    out = [0.0] * int(16 * BEAT * RATE)
    note = lambda semitones: 220 * 2 ** (semitones / 12)
    chords = [(-9, (3, 7, 10)), (-4, (3, 8, 12)), (-2, (2, 5, 10)), (-9, (3, 7, 10))]
    for bar, (bass, chord) in enumerate(chords):
        for half in (0, 2):
            begin = (bar * 4 + half) * BEAT
            horn(out, begin, BEAT * 0.8, note(bass - 12 + (5 if half and bar % 2 else 0)), 0.30, 9)
            drum(out, begin, 62, 0.5, rnd)
            for tone in chord:
                horn(out, begin + BEAT, BEAT * 0.45, note(tone), 0.085)
            drum(out, begin + BEAT, 190, 0.16, rnd, 0.8)
    tune = [(0, 1, 15), (1, .5, 17), (1.5, .5, 19), (2, 1.5, 22), (3.5, .5, 19), (4, 1, 20), (5, .5, 19), (5.5, .5, 17), (6, 2, 15),
            (8, 1, 14), (9, .5, 17), (9.5, .5, 22), (10, 1.5, 20), (11.5, .5, 17), (12, 1, 19), (13, .5, 15), (13.5, .5, 12), (14, 1.75, 15)]
    for begin, length, tone in tune:
        horn(out, begin * BEAT, length * BEAT * 0.95, note(tone - 12), 0.2, 8)
    most = max(abs(v) for v in out)
    return [v / most * 0.8 for v in out]


def sound(samples, out):
    raw = b"".join(struct.pack("<h", round(v * 32767)) for v in samples)
    subprocess.run(["ffmpeg", "-y", "-v", "error", "-f", "s16le", "-ar", str(RATE), "-ac", "1", "-i", "-", "-c:a", "libopus", "-b:a", "72k",
                    "-fflags", "+bitexact", "-flags:a", "+bitexact", str(out)], input=raw, check=True)


def boat():
    """A paper boat with a lantern in it, and its light on the water."""
    defs = ('<radialGradient id="glow"><stop offset="0" stop-color="#ffdc8c" stop-opacity="0.85"/><stop offset="0.35" stop-color="#ffb347" '
            'stop-opacity="0.35"/><stop offset="1" stop-color="#ffb347" stop-opacity="0"/></radialGradient>'
            '<linearGradient id="hull" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="#f7e3bd"/><stop offset="1" '
            'stop-color="#b5713f"/></linearGradient>'
            '<linearGradient id="light" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="#fff3c9"/><stop offset="1" '
            'stop-color="#f08a3c"/></linearGradient>')
    body = ('<circle cx="150" cy="84" r="150" fill="url(#glow)"/>'
            '<path d="M150 34 L178 52 L172 112 L128 112 L122 52 Z" fill="url(#light)"/>'
            '<path d="M150 34 L178 52 L122 52 Z" fill="#c8472b"/><path d="M150 52 L150 112 M136 52 L138 112 M164 52 L162 112" '
            'stroke="#c8742e" stroke-width="2" fill="none"/>'
            '<path d="M28 108 L96 122 L204 122 L272 108 L218 168 L82 168 Z" fill="url(#hull)"/>'
            '<path d="M28 108 L96 122 L110 168 L82 168 Z" fill="#d9a066"/><path d="M272 108 L204 122 L190 168 L218 168 Z" fill="#8f5230"/>'
            '<ellipse cx="150" cy="178" rx="96" ry="7" fill="#ffb347" fill-opacity="0.35"/>'
            '<ellipse cx="150" cy="192" rx="60" ry="4" fill="#ffb347" fill-opacity="0.22"/>')
    return svg(340, 286, f'<g transform="translate(20 70)">{body}</g>', defs)


def main():
    drawings = {"quay-strip.svg": quay(), "gull.svg": gull(), "rope.svg": rope(), "lantern.svg": lantern(),
                "lantern-boat.svg": boat()}
    for name, text in drawings.items():
        if name != "quay-strip.svg":
            (HERE / name).write_text(text)
    if len(sys.argv) < 2:
        return
    program = sys.argv[1]
    with tempfile.TemporaryDirectory() as folder:
        strip = pathlib.Path(folder) / "quay-strip.svg"
        strip.write_text(drawings["quay-strip.svg"])
        still(program, '{"overagain":2,"size":[2880,560],"rate":[30,1],"frames":1,"layers":[{"recipe":[{"step":"picture","file":"%s",'
              '"across":"edge","down":"edge"}]}]}' % strip, HERE / "quay-strip.png")
    still(program, '{"overagain":2,"size":[640,480],"rate":[30,1],"frames":1,"layers":[{"recipe":[{"step":"noise","cell":120,"detail":8,"roughness":0.72},'
          '{"step":"levels","contrast":0.35,"brightness":0.26}]}]}', HERE / "paper.png")
    still(program, '{"overagain":2,"size":[640,480],"rate":[30,1],"frames":1,"background":"#000000","layers":[{"recipe":[{"step":"noise","kind":"speckle","speck":3,"held":0},{"step":"levels","contrast":3,"brightness":-1},{"step":"levels","contrast":4,"brightness":-0.5}]}]}',
          HERE / "salt.png")
    swing = ('{"overagain":2,"size":[300,340],"rate":[25,1],"frames":50,"background":"transparent","layers":[{"name":"Lantern","place":'
             '{"anchor":[0.5,0.08],"position":[0.5,0.08],"turn":{"value":-14,"motion":{"kind":"swing","laps":1,"to":14}}},"recipe":[{"step":"picture","file":"%s",'
             '"across":"nothing","down":"nothing","at":[0.5,0.2]}]}]}' % (HERE / "lantern.svg"))
    with tempfile.TemporaryDirectory() as folder:
        path = pathlib.Path(folder) / "s.overagain"
        path.write_text(swing)
        subprocess.run([program, "render", str(path), "-o", str(HERE / "swinging-lantern.webm"), "--kilobits", "600", "--quiet"], check=True)
    sound(brass(), HERE / "brass.ogg")


if __name__ == "__main__":
    main()
