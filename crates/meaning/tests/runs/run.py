"""Runs programs that make their choices from a stream of numbers; tells which lines ran and which read a variable without a value."""

import json
import random
import sys


class North(Exception):
    pass


class South(Exception):
    pass


class Over(BaseException):
    pass


def run(source, rounds):
    ran, failed = set(), set()
    code = compile(source, "program", "exec")
    for seed in range(rounds):
        stream = random.Random(seed)
        left = 60

        def choose():
            nonlocal left
            left -= 1
            if left < 0:
                raise Over
            return stream.random() < 0.5

        def storm():
            if choose():
                raise North if choose() else South

        steps = 0

        def hit(line, *_):
            nonlocal steps
            steps += 1
            if steps > 500:
                raise Over
            ran.add(line)

        names = {"choose": choose, "storm": storm, "hit": hit, "North": North, "South": South}
        exec(code, names)
        try:
            names["sail"]()
        except NameError as error:
            trace = error.__traceback__
            while trace.tb_next:
                trace = trace.tb_next
            failed.add(trace.tb_lineno)
        except (North, South, Over):
            pass
    return {"ran": sorted(ran), "failed": sorted(failed)}


for line in sys.stdin:
    print(json.dumps(run(json.loads(line), 40)))
