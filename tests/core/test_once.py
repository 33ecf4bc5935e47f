"""A property that is worked out once."""

import threading

from metaspira.numbers.once import cached_property


def test_threads_whose_properties_need_each_other_do_not_wait_for_ever():
    both = threading.Barrier(2, timeout=20)

    class One:
        other = None

        @cached_property
        def value(self):
            if self.other is None:
                return 1
            both.wait()
            return self.other.value

    class Two(One):
        @cached_property
        def value(self):
            if self.other is None:
                return 2
            both.wait()
            return self.other.value

    first, second = One(), Two()
    first.other, second.other = Two(), One()
    found = {}
    threads = [
        threading.Thread(target=lambda one=one: found.update({one: one.value}), daemon=True)
        for one in (first, second)
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(20)
    assert (found.get(first), found.get(second)) == (2, 1)


def test_it_is_worked_out_once_and_kept_with_its_object():
    asked = []

    class Thing:
        @cached_property
        def value(self):
            """Its value."""
            asked.append(self)
            return len(asked)

    one, two = Thing(), Thing()
    assert (one.value, two.value, one.value) == (1, 2, 1)
    assert one.__dict__ == {"value": 1}
