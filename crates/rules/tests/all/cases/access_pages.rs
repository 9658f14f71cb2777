//! Ten pages that shut somebody out and ten that do not, for each rule that reads a few attributes, by the technique or failure of WCAG 2.2
//! that it serves.

use sieve_syntax::language::Language;

use crate::cases::bench::Bench;

/// What comes before the first character of each finding.
const MARK: char = '«';

/// Holds a rule against pages, each alone: those with marks, and those of which nothing is said.
#[track_caller]
fn judge(rule: &'static str, wrong: &[&str], right: &[&str]) {
    assert!(wrong.len() >= 10 && right.len() >= 10, "{rule}: {} wrong and {} right pages", wrong.len(), right.len());
    assert!(wrong.iter().all(|page| page.contains(MARK)) && !right.iter().any(|page| page.contains(MARK)), "{rule}");
    let bench = Bench::of(rule, Language::Html);
    let pages = wrong.iter().chain(right).map(|page| (bench.marked(&page.replace(MARK, "")), *page));
    let differing: Vec<String> = pages
        .filter(|(found, page)| found != page)
        .map(|(found, page)| format!("{found}\ninstead of\n{page}"))
        .collect();
    assert!(differing.is_empty(), "{rule}:\n{}", differing.join("\n\n"));
}

/// H57; failures of 3.1.1.
#[test]
fn page_language() {
    judge(
        "page-language",
        &[
            "«<html>\n<body>Tide</body>\n</html>\n",
            "<html «lang=\"\"><body>Tide</body></html>\n",
            "<html «lang=\" \"></html>\n",
            "<html «lang=\"english\"></html>\n",
            "<html «lang=\"en_GB\"></html>\n",
            "<html «lang=\"e\"></html>\n",
            "«<html xml:lang=\"en\"></html>\n",
            "«<html dir=\"ltr\"><head></head></html>\n",
            "«<html language=\"en\"></html>\n",
            "<!DOCTYPE html>\n«<html class=\"no-js\"><body>Low</body></html>\n",
            "<html «lang=\"en-\"></html>\n",
        ],
        &[
            "<html lang=\"en\"></html>",
            "<html lang=\"en-GB\"></html>",
            "<html lang=en></html>",
            "<HTML LANG=\"de\"></HTML>",
            "<html lang=\"zh-Hant-TW\"></html>",
            "<html lang=\"x-salt\"></html>",
            "<html lang=\"mul\"></html>",
            "<html lang={{ lang }}></html>",
            "<html <?= $attributes ?>></html>",
            "<html lang=\"en\" xml:lang=\"en\"></html>",
            "<p>Tide</p>",
        ],
    );
}

/// H25, G88; F25.
#[test]
fn page_title() {
    judge(
        "page-title",
        &[
            "<html>«<head><meta charset=\"utf-8\"></head></html>\n",
            "<html>«<head></head><body>Tide</body></html>\n",
            "<html><head>«<title></title></head></html>\n",
            "<html><head>«<title>   </title></head></html>\n",
            "<html><head>«<title>\n</title></head></html>\n",
            "<html><head>«<title>&nbsp;</title></head></html>\n",
            "<html>«<head><link rel=\"icon\" href=\"a.png\"></head></html>\n",
            "<html>«<head><meta name=\"title\" content=\"Tides\"></head></html>\n",
            "<html>«<head><!-- <title>Tides</title> --></head></html>\n",
            "<html>«<head><style>a { top: 0 }</style></head><body><h1>Tides</h1></body></html>\n",
        ],
        &[
            "<html><head><title>Tides</title></head></html>",
            "<html><head><meta charset=\"utf-8\"><title>Tides</title></head></html>",
            "<html><title>Tides</title><p>Low</html>",
            "<html><head><title>&#84;</title></head></html>",
            "<html><head><title>{{ title }}</title></head></html>",
            "<html><head><title><?= $title ?></title></head></html>",
            "<html><head><?php head(); ?></head></html>",
            "<html><head>{% block head %}{% endblock %}</head></html>",
            "<html><body><svg><title></title></svg></body></html>",
            "<p>Tides</p>",
        ],
    );
}

/// H64; failures of 4.1.2.
#[test]
fn frame_title() {
    judge(
        "frame-title",
        &[
            "«<iframe src=\"/map\"></iframe>",
            "«<iframe src=\"/map\" title=\"\"></iframe>",
            "«<iframe src=\"/map\" title=\" \"></iframe>",
            "«<iframe src=\"/map\" name=\"map\"></iframe>",
            "«<iframe src=\"/map\" aria-label=\"\"></iframe>",
            "«<iframe src=\"/map\" width=\"600\" height=\"400\"></iframe>",
            "«<iframe src=\"/map\" aria-labelledby=\"nothing\"></iframe>",
            "<figure>«<iframe src=\"/map\"></iframe><figcaption>Map</figcaption></figure>",
            "<h2>Map</h2>«<iframe src=\"/map\">Map of the quays</iframe>",
            "«<IFRAME SRC=\"/map\"></IFRAME>",
        ],
        &[
            "<iframe src=\"/map\" title=\"Map\"></iframe>",
            "<iframe src=\"/map\" aria-label=\"Map\"></iframe>",
            "<h2 id=\"m\">Map</h2><iframe src=\"/map\" aria-labelledby=\"m\"></iframe>",
            "<iframe src=\"/count\" hidden></iframe>",
            "<iframe src=\"/count\" width=\"1\" height=\"1\"></iframe>",
            "<iframe src=\"/count\" width=\"0\" height=\"0\"></iframe>",
            "<iframe src=\"/count\" aria-hidden=\"true\" tabindex=\"-1\"></iframe>",
            "<iframe src=\"/count\" style=\"display: none\"></iframe>",
            "<iframe src=\"/map\" title=\"{{ name }}\"></iframe>",
            "<iframe src=\"/map\" {{ attributes }}></iframe>",
            "<noscript><iframe src=\"/count\"></iframe></noscript>",
        ],
    );
}

/// ARIA4, G108; F15, F59.
#[test]
fn role_known() {
    judge(
        "role-known",
        &[
            "<div «role=\"buton\"></div>",
            "<div «role=\"quay\"></div>",
            "<nav «role=\"navigations\"></nav>",
            "<div «role=\"date\"></div>",
            "<input «role=\"check\">",
            "<div «role=\"modal\"></div>",
            "<ul «role=\"dropdown\"></ul>",
            "<div «role=\"roletype\"></div>",
            "<div «role=\"widget\"></div>",
            "<div «role=\"landmark\"></div>",
        ],
        &[
            "<div role=\"button\"></div>",
            "<div role=\"NONE\"></div>",
            "<div role=\"quay note\"></div>",
            "<div role=\"doc-footnote\"></div>",
            "<svg role=\"graphics-symbol\"></svg>",
            "<div role=\"{{ role }}\"></div>",
            "<div role=\"\"></div>",
            "<div role></div>",
            "<div role=\"comment\"></div>",
            "<div role=\" alert \"></div>",
            "<ferry-board role=\"list\"></ferry-board>",
        ],
    );
}

/// ARIA5; F79.
#[test]
fn role_attributes() {
    judge(
        "role-attributes",
        &[
            "<p «aria-lable=\"a\"></p>",
            "<div role=\"checkbox\" «aria-checked=\"on\"></div>",
            "«<div role=\"slider\"></div>",
            "«<div role=\"checkbox\"></div>",
            "«<div role=\"combobox\"></div>",
            "«<div role=\"heading\">Tides</div>",
            "<p «aria-hidden=\"yes\"></p>",
            "<button «aria-expanded=\"open\">Quays</button>",
            "<p «aria-live=\"loud\"></p>",
            "<a href=\"/\" «aria-curent=\"page\">Tides</a>",
            "<p «aria-level=\"two\"></p>",
        ],
        &[
            "<input type=\"checkbox\" role=\"switch\">",
            "<h2 role=\"heading\">a</h2>",
            "<div role=\"heading\" aria-level=\"2\">a</div>",
            "<div role=\"slider\" aria-valuenow=\"3\"></div>",
            "<div role=\"checkbox\" aria-checked=\"mixed\"></div>",
            "<p aria-current=\"page\"></p>",
            "<p aria-valuenow=\"1.5\"></p>",
            "<p aria-label=\"\"></p>",
            "<p aria-hidden=\"true\"></p>",
            "<div role=\"slider\" {{ values }}></div>",
            "<div role=\"{{ role }}\" aria-checked=\"{{ checked }}\"></div>",
        ],
    );
}

/// G202, SCR20, SCR35; F42, F54.
#[test]
fn keyboard_handler() {
    judge(
        "keyboard-handler",
        &[
            "<div «onclick=\"book()\">Book</div>",
            "<span «onclick=\"book()\">Book</span>",
            "<img alt=\"Book\" src=\"a.png\" «onclick=\"book()\">",
            "<li «onclick=\"book()\">Book</li>",
            "<td «onclick=\"book()\">Book</td>",
            "<p «onclick=\"location.href = '/tides'\">Tides</p>",
            "<a «onclick=\"book()\">Book</a>",
            "<h2 «onclick=\"fold()\">Tides</h2>",
            "<article «onclick=\"book()\">Book</article>",
            "<svg «onclick=\"book()\"><path d=\"M0 0\"/></svg>",
        ],
        &[
            "<button onclick=\"book()\">Book</button>",
            "<a href=\"/\" onclick=\"go()\">a</a>",
            "<label onclick=\"go()\">b</label>",
            "<div onclick=\"go()\" role=\"button\" tabindex=\"0\">a</div>",
            "<div onclick=\"go()\"><button>a</button></div>",
            "<button><span onclick=\"go()\">a</span></button>",
            "<tr onclick=\"event.stopPropagation()\">",
            "<summary onclick=\"count()\">a</summary>",
            "<div onclick=\"go()\" onkeydown=\"go(event)\" tabindex=\"0\">a</div>",
            "<input type=\"checkbox\" onclick=\"count()\">",
            "<div onclick=\"go()\" {{ attributes }}>a</div>",
        ],
    );
}

/// H4; F44.
#[test]
fn positive_tabindex() {
    judge(
        "positive-tabindex",
        &[
            "<p «tabindex=\"1\">a",
            "<a href=\"/\" «tabindex=\"2\">a</a>",
            "<input «tabindex=\"10\">",
            "<button «tabindex=\"32767\">a</button>",
            "<div «tabindex=5>a</div>",
            "<select «TABINDEX=\"3\"></select>",
            "<textarea «tabindex=\" 4 \"></textarea>",
            "<iframe title=\"Map\" «tabindex=\"1\"></iframe>",
            "<div role=\"button\" «tabindex=\"+1\">a</div>",
            "<label>a <input «tabindex='7'></label>",
        ],
        &[
            "<p tabindex=\"0\">b",
            "<p tabindex=\"-1\">c",
            "<p tabindex=0>d",
            "<p tabindex=\"\">e",
            "<p tabindex=\"{{ order }}\">f",
            "<p tabindex=\"first\">g",
            "<p data-tabindex=\"1\">h",
            "<input tabindex=\"-2\">",
            "<a href=\"/\">i</a>",
            "<p tabindex=\"<?= $order ?>\">j",
        ],
    );
}

/// G171, SCR37; failures of 4.1.2 and 1.3.1.
#[test]
fn hidden_focusable() {
    judge(
        "hidden-focusable",
        &[
            "<div aria-hidden=\"true\">«<a href=\"/\">a</a></div>",
            "<div aria-hidden=\"true\">«<input type=\"text\"></div>",
            "<div aria-hidden=\"true\">«<button>a</button></div>",
            "<div aria-hidden=\"true\">«<select></select></div>",
            "<div aria-hidden=\"true\">«<textarea></textarea></div>",
            "<div aria-hidden=\"true\">«<p tabindex=\"0\">a</p></div>",
            "«<button aria-hidden=\"true\">a</button>",
            "«<a href=\"/\" aria-hidden=\"true\">a</a>",
            "<span aria-hidden=\"true\"><b>«<a href=\"/\">a</a></b></span>",
            "<div aria-hidden=\"TRUE\">«<a href=\"/\">a</a></div>",
        ],
        &[
            "<div aria-hidden=\"true\" class=\"modal\"><button>a</button></div>",
            "<div aria-hidden=\"true\"><a>a</a></div>",
            "<div aria-hidden=\"true\"><input type=\"hidden\"></div>",
            "<div aria-hidden=\"true\"><button disabled>b</button></div>",
            "<div aria-hidden=\"true\"><a href=\"/\" tabindex=\"-1\">b</a></div>",
            "<div aria-hidden=\"false\"><a href=\"/\">a</a></div>",
            "<div aria-hidden=\"{{ closed }}\"><a href=\"/\">a</a></div>",
            "<div aria-hidden=\"true\" hidden><a href=\"/\">a</a></div>",
            "<div aria-hidden=\"true\" style=\"display: none\"><a href=\"/\">a</a></div>",
            "<div aria-hidden=\"true\" inert><a href=\"/\">a</a></div>",
            "<div aria-hidden=\"true\"><svg><path d=\"M0 0\"/></svg></div>",
        ],
    );
}

/// H48, H40; F2.
#[test]
fn list_structure() {
    judge(
        "list-structure",
        &[
            "<ul>«<p>a</p></ul>",
            "<ol>«<div>a</div></ol>",
            "<ul><li>a</li>«<a href=\"/\">b</a></ul>",
            "<ul><li>a</li>«<table></table></ul>",
            "<dl>«<p>a</p></dl>",
            "<ul>«<h2>a</h2><li>b</li></ul>",
            "<ol>«<br><li>a</li></ol>",
            "<div>«<li>a</li></div>",
            "<section>«<dt>a</dt></section>",
            "<main>«<dd>a</dd></main>",
        ],
        &[
            "<ul><li>a</li></ul>",
            "<ol><li>a<ul><li>b</ul></ol>",
            "<dl><dt>a<dd>b</dl>",
            "<dl><div><dt>a<dd>b</div></dl>",
            "<ul role=\"menu\"><a role=\"menuitem\">a</a></ul>",
            "<ul>{% include 'quays' %}</ul>",
            "<ul><quay-item></quay-item></ul>",
            "<ul><script>draw()</script><li>a</li></ul>",
            "<ul><template><li>a</li></template></ul>",
            "<menu><li><button>a</button></li></menu>",
        ],
    );
}

/// G141, H42; failures of 1.3.1.
#[test]
fn heading_order() {
    judge(
        "heading-order",
        &[
            "<h1>a</h1>«<h3>b</h3>",
            "<h1>a</h1><h2>b</h2>«<h4>c</h4>",
            "<h2>a</h2>«<h5>b</h5>",
            "<h1>a</h1><section>«<h3>b</h3></section>",
            "<h1>a</h1>«<h3>b</h3><h2>c</h2><h3>d</h3>",
            "<h1>a</h1><div role=\"heading\" aria-level=\"2\">b</div>«<h4>c</h4>",
            "<h1>a</h1>«<div role=\"heading\" aria-level=\"3\">b</div>",
            "<h3>a</h3>«<h6>b</h6>",
            "<h1>a</h1>«<h6>b</h6>",
            "<H1>a</H1>«<H3>b</H3>",
            "<h1>a</h1><hr>«<h3>b</h3>",
        ],
        &[
            "<h1>a</h1><h2>b</h2><h3>c</h3>",
            "<h1>a</h1><h2>b</h2><h3>c</h3><h2>d</h2>",
            "<h3>a</h3><h4>b</h4>",
            "<h1>a</h1><h1>b</h1>",
            "<h4>a</h4><h1>b</h1><h2>c</h2>",
            "<p>a</p>",
            "<h1>a</h1>{% include 'part' %}<h3>b</h3>",
            "<h1>a</h1><div role=\"heading\" aria-level=\"2\">b</div><h3>c</h3>",
            "<h2>a</h2><h2>b</h2><h2>c</h2>",
            "<h1>a</h1><h2 hidden>b</h2><h2>c</h2>",
            "<h1>a</h1><h2 role=\"tab\">b</h2><h4>c</h4>",
            "<h1>a</h1><div role=\"heading\" aria-level=\"{{ level }}\">b</div><h4>c</h4>",
        ],
    );
}

/// G4, G60, G87, G171; F16, F23, F8.
#[test]
fn moving_media() {
    judge(
        "moving-media",
        &[
            "<audio src=\"a\" «autoplay></audio>",
            "<audio src=\"a\" «autoplay=\"autoplay\"></audio>",
            "<video src=\"a\" «autoplay></video>",
            "«<marquee>a</marquee>",
            "<p>Low «<blink>tide</blink></p>",
            "<video «autoplay loop><source src=\"a\"></video>",
            "<audio «AUTOPLAY src=\"a\"></audio>",
            "<audio «autoplay loop src=\"a\"></audio>",
            "<h1>«<marquee direction=\"left\">Storm</marquee></h1>",
            "<video «autoplay=\"\" src=\"a\" poster=\"b\"></video>",
        ],
        &[
            "<audio src=\"a\" controls></audio>",
            "<video src=\"a\" autoplay muted></video>",
            "<video src=\"a\" muted autoplay loop></video>",
            "<video src=\"a\" controls><track kind=\"captions\" src=\"c\"></video>",
            "<video src=\"a\" {{ autoplay }}></video>",
            "<audio src=\"a\"></audio>",
            "<video data-autoplay src=\"a\"></video>",
            "<img src=\"a.gif\" alt=\"Tide\">",
            "<iframe src=\"/?autoplay=1\" title=\"Film\"></iframe>",
            "<p class=\"marquee\">a</p>",
        ],
    );
}

/// G142, G179; F69, F94.
#[test]
fn zoom_blocked() {
    judge(
        "zoom-blocked",
        &[
            "<meta name=\"viewport\" «content=\"initial-scale=1, maximum-scale=1\">",
            "<meta name=\"viewport\" «content=\"user-scalable=no\">",
            "<meta name=\"viewport\" «content=\"user-scalable=0\">",
            "<meta name=\"viewport\" «content=\"width=device-width,user-scalable=no\">",
            "<meta name=\"viewport\" «content=\"maximum-scale=1.5\">",
            "<meta name=\"viewport\" «content=\"width=device-width; maximum-scale=1.0\">",
            "<meta «content=\"maximum-scale=1\" name=\"viewport\">",
            "<meta name=\"VIEWPORT\" «content=\"user-scalable=NO\">",
            "<meta name=viewport «content=maximum-scale=1>",
            "<meta name=\"viewport\" «content=\"user-scalable = no\">",
        ],
        &[
            "<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">",
            "<meta name=\"viewport\" content=\"maximum-scale=2\">",
            "<meta name=\"viewport\" content=\"maximum-scale=5, user-scalable=yes\">",
            "<meta name=\"viewport\" content=\"user-scalable=1\">",
            "<meta name=\"a\" content=\"user-scalable=no\">",
            "<meta content=\"user-scalable=no\">",
            "<meta name=\"viewport\" content=\"{{ viewport }}\">",
            "<meta name=\"viewport\" content=\"minimum-scale=1\">",
            "<meta name=\"viewport\">",
            "<meta name=\"viewport\" content=\"maximum-scale=auto\">",
        ],
    );
}

/// G208, G211; F96.
#[test]
fn label_in_name() {
    judge(
        "label-in-name",
        &[
            "<button «aria-label=\"Reserve\">Book now</button>",
            "<a href=\"/\" «aria-label=\"Timetable\">Tides today</a>",
            "<button «aria-label=\"Send form\">Submit</button>",
            "<button «aria-label=\"Now book\">Book now</button>",
            "<div role=\"button\" tabindex=\"0\" «aria-label=\"Reserve\">Book now</div>",
            "<a href=\"/\" «aria-label=\"More\"><b>Read</b> the rules</a>",
            "<button «aria-label=\"Find\"><span>Search quays</span></button>",
            "<a href=\"/north\" «aria-label=\"Quay\">North quay today</a>",
            "<button «aria-label=\"Bookings\">Book now, please</button>",
            "<a href=\"/\" «aria-label=\"Home page\">Saltmarsh Ferries</a>",
        ],
        &[
            "<button aria-label=\"Book now, north quay\">Book now</button>",
            "<button aria-label=\"book now\">Book now</button>",
            "<button aria-label=\"Book  now\">Book\n now</button>",
            "<button aria-label=\"Close\">X</button>",
            "<button aria-label=\"Next\">&raquo;</button>",
            "<button aria-label=\"Café\">Caf&eacute;</button>",
            "<button aria-label=\"Book now\"><b>B</b>ook now</button>",
            "<p aria-label=\"Tide\">Low</p>",
            "<a href=\"/\" aria-label=\"Home\"><img src=\"a\" alt=\"Ferries\"></a>",
            "<button aria-label=\"{{ name }}\">Book now</button>",
            "<button aria-label=\"Reserve\">{{ word }}</button>",
            "<button aria-label=\"Reserve\"><span aria-hidden=\"true\">Book now</span></button>",
            "<button>Book now</button>",
        ],
    );
}

/// ARIA11, ARIA13.
#[test]
fn landmark_unique() {
    judge(
        "landmark-unique",
        &[
            "<nav>a</nav>«<nav>b</nav>",
            "<nav aria-label=\"Quays\">a</nav>«<nav aria-label=\"Quays\">b</nav>",
            "<nav aria-label=\"Quays\">a</nav>«<nav aria-label=\"quays \">b</nav>",
            "<main>a</main>«<main>b</main>",
            "<div role=\"navigation\">a</div>«<div role=\"navigation\">b</div>",
            "<nav>a</nav>«<div role=\"navigation\">b</div>",
            "<main>a</main>«<div role=\"main\">b</div>",
            "<nav title=\"Quays\">a</nav>«<nav title=\"Quays\">b</nav>",
            "<nav role=\"navigation\">a</nav>«<nav>b</nav>",
            "<h2 id=\"q\">Quays</h2><nav aria-labelledby=\"q\">a</nav>«<nav aria-label=\"Quays\">b</nav>",
        ],
        &[
            "<nav>a</nav><nav aria-label=\"Quays\">b</nav>",
            "<nav title=\"Fares\">a</nav><nav aria-label=\"Quays\">b</nav>",
            "<main>d</main><main hidden>e</main>",
            "<nav role=\"tablist\">a</nav><nav>b</nav>",
            "<nav aria-label=\"{{ c }}\">c</nav><nav aria-label=\"{{ d }}\">d</nav>",
            "<h2 id=\"q\">Quays</h2><nav aria-labelledby=\"q\">a</nav><nav>b</nav>",
            "<section>a</section><section>b</section>",
            "<form>a</form><form>b</form>",
            "<article><header>a</header></article><article><header>b</header></article>",
            "<nav>a</nav><main>b</main><aside>c</aside>",
        ],
    );
}

/// Not asked by WCAG: what an element is already needs no role (HTML-AAM).
#[test]
fn redundant_role() {
    judge(
        "redundant-role",
        &[
            "<button «role=\"button\">a</button>",
            "<a href=\"/\" «role=\"link\">a</a>",
            "<nav «role=\"navigation\">a</nav>",
            "<main «role=\"main\">a</main>",
            "<h2 «role=\"heading\">a</h2>",
            "<img src=\"a\" alt=\"b\" «role=\"img\">",
            "<aside «role=\"complementary\">a</aside>",
            "<input type=\"checkbox\" «role=\"checkbox\">",
            "<article «role=\"article\">a</article>",
            "<textarea «role=\"textbox\"></textarea>",
        ],
        &[
            "<button role=\"tab\">a</button>",
            "<a role=\"link\">a</a>",
            "<div role=\"navigation\">a</div>",
            "<h2 role=\"tab\">a</h2>",
            "<button role=\"{{ role }}\">a</button>",
            "<button>a</button>",
            "<img src=\"a\" alt=\"\" role=\"presentation\">",
            "<input type=\"checkbox\" role=\"switch\">",
            "<section role=\"region\" aria-label=\"a\">a</section>",
            "<table role=\"grid\"></table>",
            // Where a style takes the marks away, some readers take it for no list.
            "<ol role=\"list\"><li>a</ol>",
        ],
    );
}
