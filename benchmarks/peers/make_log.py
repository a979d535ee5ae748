"""Writes a log of so many frames with three columns: time stamp, frame time, power. Always the same one."""
import random
import sys

path, rows = sys.argv[1], int(sys.argv[2])
draw = random.Random(7)
at = 0.0
with open(path, "w") as log:
    log.write("time_s,frame_ms,power_w\n")
    for _ in range(rows):
        frame = draw.lognormvariate(2.5, 0.15) * (6 if draw.random() < 2e-4 else 1)
        log.write(f"{at:.6f},{frame:.4f},{190 + draw.random() * 20:.1f}\n")
        at += frame / 1000
