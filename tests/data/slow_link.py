"""A slow connection that loses: stands between ssh and its bench as a ProxyCommand.

Each piece arrives DELAY s later; of a hundred pieces LOSS are lost, which with TCP is a stall until they are sent again,
in which what comes behind them waits too.
"""
import os
import random
import socket
import sys
import threading
import time

host, port, delay, loss = sys.argv[1], int(sys.argv[2]), float(sys.argv[3]), float(sys.argv[4])
RESENT_AFTER = 0.3


def pass_on(read, write, close):
    chance = random.Random(1)
    queue, ready = [], threading.Condition()

    def deliver():
        free_at = 0.0
        while True:
            with ready:
                ready.wait_for(lambda: queue)
                due, piece = queue.pop(0)
            if not piece:
                close()
                return
            if chance.random() < loss / 100:
                due += RESENT_AFTER
            free_at = max(free_at, due)
            time.sleep(max(0.0, free_at - time.monotonic()))
            try:
                write(piece)
            except OSError:
                return

    threading.Thread(target=deliver, daemon=True).start()
    while True:
        piece = read(1400)
        with ready:
            queue.append((time.monotonic() + delay, piece))
            ready.notify()
        if not piece:
            return


def write_all(piece):
    while piece:
        piece = piece[os.write(1, piece):]


bench = socket.create_connection((host, port))
bench.setsockopt(socket.IPPROTO_TCP, socket.TCP_NODELAY, 1)
up = threading.Thread(target=pass_on, daemon=True,
                      args=(lambda size: os.read(0, size), bench.sendall, lambda: bench.shutdown(socket.SHUT_WR)))
up.start()
pass_on(bench.recv, write_all, lambda: os.close(1))
time.sleep(delay + 2 * RESENT_AFTER)
