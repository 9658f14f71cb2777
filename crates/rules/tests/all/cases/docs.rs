//! Documentation that is missing, empty, or of something else.

use crate::cases::bench::Bench;

#[test]
fn what_the_outside_sees_is_described() {
    let bench = Bench::python("missing-doc");
    bench.finds(
        "
        \"\"\"Fares.\"\"\"


        def «fare(child):
            return child


        def said(child):
            \"\"\"Gives the fare.\"\"\"
            return child


        def _inner(child):
            return child


        class «Quay:
            def «moor(self):
                return self

            def __len__(self):
                return 1

            def _late(self):
                return self
        ",
    );
    Bench::python("missing-doc").at("tests/test_fares.py").passes(&["def test_fare():\n    assert fare()\n"]);
    Bench::python("missing-doc").at("booking/fares.pyi").passes(&["def fare(day: int) -> int: ...\n"]);
}

#[test]
fn descriptions_without_words() {
    Bench::python("empty-doc").finds(
        "
        def fare(child):
            «\"\"\"\"\"\"
            return child


        def price(child):
            «'''   '''
            return child


        def said(child):
            \"\"\"Words.\"\"\"
            return child
        ",
    );
    Bench::javascript("empty-doc").finds(
        "
        «/** */
        export function fare() {}

        /** Words. */
        export function price() {}

        /* */
        export function late() {}
        ",
    );
}

#[test]
fn parameters_that_only_the_description_has() {
    let bench = Bench::python("doc-mismatch");
    bench.finds(
        "
        def fare(child, day):
            \"\"\"Gives the fare.

            Args:
                child: whether it is one
                Default: no
                «weekday: the day
            \"\"\"
            return child, day


        def price(child, **rest):
            \"\"\"Gives the price.

            Args:
                late: taken from the rest
            \"\"\"
            return child, rest


        def depth(quay):
            \"\"\"Gives the depth.

            :param quay: the quay
            «:param tide: the tide
            \"\"\"
            return quay
        ",
    );
    Bench::javascript("doc-mismatch").finds(
        "
        /**
         * Gives the fare.
         * @param {boolean} child whether it is one
         * «@param {string} weekday the day
         */
        export function fare(child, day) {
          return [child, day];
        }

        /**
         * @param {object} options all of them
         * @param {string} options.quay one of them
         */
        export function moor(options) {
          return options;
        }

        /**
         * @param {Day} The day to sail
         * @param {string} quay where to
         */
        export function sail(day, quay2) {
          return [day, quay2];
        }

        /** «@param {Day} Monday */
        export function sailLater(day) {
          return day;
        }

        export class Ferry extends Boat {
          /** @param {number} speed in knots */
          sail() {
            return this.leave();
          }

          /** «@param {number} speed in knots */
          moor(quay) {
            return this.leave(quay);
          }
        }
        ",
    );
}
