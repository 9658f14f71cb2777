//! Elements that shut people out, and those that only look like it: after the techniques and failures of WCAG 2.2.

use sieve_syntax::language::Language;

use crate::cases::bench::Bench;

fn html(rule: &'static str) -> Bench {
    Bench::of(rule, Language::Html)
}

fn tsx(rule: &'static str) -> Bench {
    Bench::of(rule, Language::Tsx).at("web/board.tsx")
}

/// H37, H67, H36, H24, ARIA6, ARIA10; F65, F38.
#[test]
fn images_have_texts() {
    html("image-text").finds(
        r#"
        «<img src="quay.jpg">
        «<img src="quay.jpg" title="">
        «<img src="quay.jpg" aria-label=" ">
        «<IMG SRC="quay.jpg">
        <a href="/">«<img src="home.png"></a>
        <p>High «<img src="wave.svg"> tide</p>
        «<img src="quay.jpg" aria-labelledby="nothing">
        <map name="quays">«<area href="/north" shape="rect" coords="0,0,9,9"></map>
        «<input type="image" src="book.png">
        «<svg role="img"><path d="M0 0"/></svg>
        «<div role="img"></div>
        <figure>«<img src="quay.jpg"><figcaption>North</figcaption></figure>
        "#,
    );
    html("image-text").passes(&[
        r#"<img src="quay.jpg" alt="The ferry at the north quay">"#,
        r#"<img src="line.png" alt="">"#,
        "<img src=line.png alt>",
        r#"<img src="quay.jpg" aria-label="North quay">"#,
        r#"<h2 id="n">North quay</h2><img src="quay.jpg" aria-labelledby="n">"#,
        r#"<img src="quay.jpg" title="North quay">"#,
        r#"<img src="wave.png" role="none">"#,
        r#"<span aria-hidden="true"><img src="wave.png"></span>"#,
        r#"<div hidden><img src="wave.png"></div>"#,
        r#"<noscript><img src="count.gif"></noscript>"#,
        r#"<map name="m"><area shape="rect" coords="0,0,9,9"></map>"#,
        r#"<input type="image" src="book.png" alt="Book">"#,
        r#"<svg role="img"><title>Tide</title><path d="M0 0"/></svg>"#,
        r#"<img :alt="quay" src="a.png"><img v-bind="picture"><img [attr.alt]="quay">"#,
        r#"<img src="{{ quay }}" {{ rest }}>"#,
    ]);
    tsx("image-text")
        .finds("const a = <p>«<img src={quay} /><img alt={name} /><img {...rest} /><Img src={quay} /></p>;\n");
}

/// H44, H65, ARIA14, ARIA16; F68.
#[test]
fn controls_have_labels() {
    html("control-label").finds(
        r#"
        <p>Quay: «<input type="text" name="quay"></p>
        «<select name="tide"><option>low</option></select>
        «<textarea rows="2"></textarea>
        <label for="a">Quay</label> «<input id="b">
        <label></label> «<input type="checkbox">
        <label for="c"></label> «<input id="c" type="radio">
        «<input type="email" aria-label="">
        «<input type="password" title=" ">
        «<input type="file" aria-labelledby="nothing">
        <table><tr><th>Quay<td>«<input type="number"></table>
        "#,
    );
    html("control-label").passes(&[
        r#"<label>Quay <input name="quay"></label>"#,
        r#"<label for="quay">Quay</label><input id="quay">"#,
        r#"<input id="tide"><label for="tide">Tide</label>"#,
        r#"<input aria-label="Quay">"#,
        r#"<b id="q">Quay</b><select aria-labelledby="q"></select>"#,
        r#"<input title="Quay">"#,
        r#"<input placeholder="Quay">"#,
        r#"<input type="hidden"><input type="submit"><input type="reset">"#,
        r#"<div hidden><input></div>"#,
        r#"<label><img src="quay.png" alt="Quay"><input></label>"#,
        r#"<input id="{{ id }}"><input {{ attributes }}>"#,
    ]);
    tsx("control-label").passes(&[
        "const a = <label>Quay <input /></label>;\n",
        "const a = <input id={id} />;\n",
        "const a = <Field label=\"Quay\"><input /></Field>;\n",
    ]);
}

/// H91, ARIA6, ARIA14; F68, F89.
#[test]
fn buttons_and_links_say_what_they_do() {
    html("button-text").finds(
        r#"
        «<button></button>
        «<button><i class="close"></i></button>
        «<button><img src="x.png" alt=""></button>
        «<button>&nbsp;</button>
        «<button aria-label=""><svg></svg></button>
        «<button><span aria-hidden="true">x</span></button>
        «<div role="button" tabindex="0"><i></i></div>
        «<input type="button">
        «<input type="button" value=" ">
        «<button><span hidden>Book</span></button>
        "#,
    );
    html("button-text").passes(&[
        "<button>Book</button>",
        "<button><b>Book</b></button>",
        r#"<button><img src="x.png" alt="Close"></button>"#,
        r#"<button aria-label="Close"><i></i></button>"#,
        r#"<button title="Close"><i></i></button>"#,
        "<button><svg><title>Close</title></svg></button>",
        r#"<span id="c">Close</span><button aria-labelledby="c"></button>"#,
        "<button>&times;</button>",
        "<button>'</button>",
        r#"<button role="presentation"></button>"#,
        "<button><ferry-icon></ferry-icon></button>",
        r#"<button x-text="word"></button><button data-i18n="book"></button>"#,
        r#"<div hidden><button></button></div>"#,
    ]);
    html("link-text").finds(
        r#"
        «<a href="/tides"></a>
        «<a href="/tides"><i class="wave"></i></a>
        «<a href="/"><img src="logo.png" alt=""></a>
        «<a href="/" title=""><svg></svg></a>
        «<a href=""> </a>
        <p>«<a href="/"><span aria-hidden="true">»</span></a></p>
        «<span role="link" tabindex="0"></span>
        «<a href="/"><!-- home --></a>
        «<a href="/" aria-label=" "><i></i></a>
        «<a href="/"><a name="x"></a></a>
        "#,
    );
    html("link-text").passes(&[
        r#"<a href="/tides">Tides</a>"#,
        r#"<a href="/"><img src="logo.png" alt="Saltmarsh Ferries"></a>"#,
        r#"<a name="top"></a>"#,
        r#"<a id="top"></a>"#,
        r#"<a href="/" aria-label="Home"><i></i></a>"#,
        r#"<a href="/" title="Home"><i></i></a>"#,
        r#"<a href="/" role="button"><i></i></a>"#,
        r#"<a href="/" aria-hidden="true" tabindex="-1"></a>"#,
        r#"<a href="/x">{% block link %}{% endblock %}</a>"#,
        r#"<a href="/"><img src="logo.png"></a>"#.replace("<img", "<img alt='Home'").as_str(),
    ]);
}

/// H57, H25, H64; F25.
#[test]
fn pages_and_frames_say_what_they_are() {
    html("page-language").passes(&[
        r#"<html lang="en"></html>"#,
        r#"<html lang="zh-Hant-TW"></html>"#,
        r#"<html lang="x-salt"></html>"#,
        r#"<html lang={{ lang }}></html>"#,
        "<p>Tide</p>",
    ]);
    html("page-language").finds("«<html>\n<body>Tide</body>\n</html>\n");
    html("page-language").finds("<html «lang=\"english\"></html>\n");
    html("page-language").finds("<html «lang=\" \"></html>\n");
    html("page-language").finds("«<html xml:lang=\"en\"></html>\n");
    html("page-title").finds("<html>«<head><meta charset=\"utf-8\"></head></html>\n");
    html("page-title").finds("<html><head>«<title></title></head></html>\n");
    html("page-title").passes(&[
        "<html><head><title>Tides</title></head></html>",
        "<html><head><title><?= $title ?></title></head></html>",
        "<html><head><?php head(); ?></head></html>",
        "<html><body><svg><title></title></svg></body></html>",
    ]);
    html("frame-title").finds("«<iframe src=\"/map\"></iframe><iframe src=\"/map\" title=\"Map\"></iframe>\n");
    html("frame-title").passes(&[
        "<iframe src=\"/count\" hidden></iframe>",
        "<iframe src=\"/count\" width=\"1\" height=\"1\"></iframe>",
        "<iframe src=\"/map\" aria-label=\"Map\"></iframe>",
    ]);
}

/// ARIA4, ARIA5; F15, F59, F79.
#[test]
fn roles_and_their_states_are_there() {
    html("role-known").says(
        "<div role=\"buton\"></div><div role=\"quay\"></div>",
        &["there is no role \"buton\"", "there is no role \"quay\""],
    );
    html("role-known").passes(&["<div role=\"quay note\"></div><div role=\"NONE\"></div><div role=\"comment\"></div>"]);
    html("role-attributes").says(
        "<p aria-lable=\"a\"></p><p aria-checked=\"on\"></p><p role=\"slider\"></p><p aria-relevant=\"text all\"></p>",
        &[
            "there is no attribute aria-lable",
            "aria-checked cannot be \"on\"",
            "the role \"slider\" says nothing without aria-valuenow",
        ],
    );
    html("role-attributes").passes(&[
        "<input type=\"checkbox\" role=\"switch\"><h2 role=\"heading\">a</h2><li role=\"option\">a</li>",
        "<p aria-current=\"page\"></p><p aria-level=\"2\"></p><p aria-valuenow=\"1.5\"></p><p aria-label=\"\"></p>",
    ]);
}

/// G90, G202, SCR20; F42, F54, F44.
#[test]
fn keys_reach_what_can_be_clicked() {
    html("keyboard-handler")
        .finds("<div «onclick=\"book()\">Book</div>\n<img alt=\"a\" src=\"a\" «onclick=\"book()\">\n");
    html("keyboard-handler").passes(&[
        "<a href=\"/\" onclick=\"go()\">a</a><label onclick=\"go()\">b</label>",
        "<div onclick=\"go()\" role=\"button\" tabindex=\"0\">a</div>",
        "<div onclick=\"go()\"><button>a</button></div>",
        "<button><span onclick=\"go()\">a</span></button>",
        "<tr onclick=\"event.stopPropagation()\">",
    ]);
    html("positive-tabindex").finds("<p «tabindex=\"1\">a<p tabindex=\"0\">b<p tabindex=\"-1\">c\n");
    html("hidden-focusable").finds("<div aria-hidden=\"true\">«<a href=\"/\">a</a>«<input type=\"text\"></div>\n");
    html("hidden-focusable").passes(&[
        "<div aria-hidden=\"true\" class=\"modal\"><button>a</button></div>",
        "<div aria-hidden=\"true\"><a>a</a><input type=\"hidden\"><button disabled>b</button></div>",
    ]);
}

/// H48, H40; F2.
#[test]
fn lists_hold_items() {
    html("list-structure").finds("<ul>«<p>a</p></ul><div>«<li>a</div><section>«<dt>a</dt></section>\n");
    html("list-structure").passes(&[
        "<ul><li>a</li></ul><ol><li>a<ul><li>b</ul></ol>",
        "<dl><dt>a<dd>b</dl><dl><div><dt>a<dd>b</div></dl>",
        "<ul role=\"menu\"><a role=\"menuitem\">a</a></ul>",
        "<ul>{% include 'quays' %}</ul><ul><quay-item></quay-item></ul>",
    ]);
    html("heading-order").finds("<h1>a</h1>«<h3>b</h3><h2>c</h2><h3>d</h3>\n");
}

/// F60, F23, F69.
#[test]
fn nothing_begins_by_itself_or_keeps_from_reading() {
    html("moving-media")
        .finds("<audio src=\"a\" «autoplay></audio><video autoplay muted></video>«<marquee>a</marquee>\n");
    html("zoom-blocked").finds("<meta name=\"viewport\" «content=\"initial-scale=1, maximum-scale=1\">\n");
    html("zoom-blocked").passes(&[
        "<meta name=\"viewport\" content=\"maximum-scale=2\"><meta name=\"a\" content=\"user-scalable=no\">",
    ]);
}

/// G208, G211; F96.
#[test]
fn the_words_that_are_seen_are_in_the_name() {
    html("label-in-name").finds("<button «aria-label=\"Reserve\">Book now</button>\n");
    html("label-in-name").passes(&[
        "<button aria-label=\"Book now, north quay\">Book now</button>",
        "<button aria-label=\"Close\">X</button><button aria-label=\"Next\">»</button>",
        "<p aria-label=\"Tide\">Low</p>",
        "<a href=\"/\" aria-label=\"Home\"><img src=\"a\" alt=\"Ferries\"></a>",
    ]);
}

/// H51, H63, H39; F91, F90.
#[test]
fn tables_of_data_have_headers() {
    html("table-headers").finds(
        r#"
        «<table><caption>Tides</caption><tr><td>Quay<td>Low<tr><td>North<td>1</table>
        «<table><thead><tr><td>Quay<td>Low</thead><tr><td>North<td>1</table>
        «<table><thead><tr><td><b>Quay</b></thead><tbody><tr><td>North</tbody></table>
        «<table><caption>Fares</caption><tbody><tr><td>Adult<td>4<tr><td>Child<td>2</tbody></table>
        «<table><caption>a</caption><tr><td>b<td><table><tr><th>c</table></table>
        <table><tr><td>«<table><caption>a</caption><tr><td>b<td>c</table></table>
        "#,
    );
    html("table-headers").passes(&[
        "<table><caption>Tides</caption><tr><th>Quay<th>Low<tr><td>North<td>1</table>",
        "<table><thead><tr><th scope=col>Quay</thead><tr><td>North</table>",
        "<table><caption>a</caption><tr><th scope=row>North<td>1</table>",
        "<table><tr><td>North<td>1</table>",
        "<table role=presentation><caption>a</caption><tr><td>North<td>1</table>",
        "<table hidden><caption>a</caption><tr><td>North<td>1</table>",
        "<table><caption>a</caption>{% for a in b %}<tr><td>North<td>1{% endfor %}</table>",
        "<table><thead></thead><tbody><tr><td>North<td>1</table>",
        "<table><caption>a</caption><tr><td role=columnheader>b<td>c</table>",
        "<table><caption>a</caption><tr><ferry-head></ferry-head><td>b<td>c</table>",
    ]);
}

/// ARIA11, ARIA13.
#[test]
fn landmarks_are_told_from_each_other() {
    html("landmark-unique").finds(
        r#"<nav>a</nav>«<nav>b</nav><nav aria-label="Quays">c</nav>«<nav aria-label="quays ">d</nav><main>e</main>«<main>f</main>"#,
    );
    html("landmark-unique").passes(&[
        r#"<nav>a</nav><nav aria-label="Quays">b</nav><nav title="Fares">c</nav><main>d</main><main hidden>e</main>"#,
        r#"<nav role="tablist">a</nav><nav>b</nav><nav aria-label="{{ c }}">c</nav><nav aria-label="{{ d }}">d</nav>"#,
        r#"<h2 id="q">Quays</h2><nav aria-labelledby="q">a</nav><nav>b</nav>"#,
    ]);
}

/// G18, G145; F24, F83.
#[test]
fn texts_stand_out_from_what_is_behind_them() {
    let css = || Bench::of("contrast", Language::Css);
    css().finds(
        "
        a { «color: #aaa; background: #fff }
        a { background-color: White; «color: silver }
        a { «color: yellow; background: rgb(255, 255, 255) !important }
        a { «color: rgba(200, 200, 200, 1); background: #fff }
        a { «color: #888; background: #fff; font-size: 14px }
        a { «color: #888f; background: #ffff; font-size: 9pt }
        a { color: black; «color: #ccc; background: #eee }
        a { «color: #00f; background: #000 }
        a { «color: red; background: blue }
        a { «color: #fff; background: #0f0 }
        ",
    );
    css().passes(&[
        "a { color: #767676; background: #fff; font-size: 14px }",
        "a { color: #888; background: #fff }",
        "a { color: #888; background: #fff; font-size: 20px }",
        "a { color: #aaa }",
        "a { color: #aaa; background: #fff url(a.png) }",
        "a { color: #aaa; background: linear-gradient(#fff, #000) }",
        "a { color: var(--a); background: #fff }",
        "a { color: #aaa; background: rgba(255, 255, 255, 0.5) }",
        "a { color: #aaa8; background: #fff }",
        "a[disabled], a.is-disabled { color: #aaa; background: #fff }",
        "a::before { color: #aaa; background: #fff }",
        "a { color: #fff; background: #fff }",
        "a { color: #aaa; background: #fff; text-indent: -999px }",
        "a { color: #aaa; background: #fff; font-size: 0 }",
        "a { color: inherit; background: #fff } b { color: currentColor; background: #fff }",
    ]);
}

/// F73; G14, G182, C15.
#[test]
fn links_in_text_are_told_from_it_without_colours() {
    let css = || Bench::of("colour-only", Language::Css);
    css().finds(
        "
        p a { color: navy; «text-decoration: none }
        p a { «text-decoration: none; color: #00f }
        main p a { color: navy; «text-decoration: none !important }
        p > a { color: navy; «text-decoration-line: none }
        .tide p a { color: navy; «text-decoration: NONE }
        blockquote a { color: navy; «text-decoration: none }
        dd a { color: navy; cursor: pointer; «text-decoration: none }
        figcaption a, nav a { color: navy; «text-decoration: none }
        p em a { color: navy; «text-decoration: none }
        P A { color: navy; «text-decoration: none }
        @media print { p a { color: navy; «text-decoration: none } }
        ",
    );
    css().passes(&[
        "p a { color: navy }",
        "p a { color: navy; text-decoration: underline }",
        "p a { text-decoration: none }",
        "p a { color: navy; text-decoration: none; font-weight: bold }",
        "p a { color: navy; text-decoration: none; border-bottom: 1px solid }",
        "p a { color: navy; text-decoration: none; background: #eee }",
        "p a { color: navy; text-decoration: none; text-decoration: underline dotted }",
        "p a:hover { color: navy; text-decoration: none }",
        "p a.button { color: navy; text-decoration: none }",
        "a { color: navy; text-decoration: none }",
        "nav a, p.a { color: navy; text-decoration: none }",
        "p a b { color: navy; text-decoration: none }",
    ]);
}

/// F14, F81; G14, G111.
#[test]
fn words_refer_to_more_than_a_colour() {
    let html = || Bench::of("colour-only", Language::Html);
    html().finds(
        "
        <p>Fields «marked in red are needed.</p>
        <p>Sailings «shown in red, which are late</p>
        <p>All rows that are «highlighted in yellow</p>
        <li>The «items in green are paid.</li>
        <label>Quays <b>«listed in blue.</b></label>
        <p>Please fill in the «fields in RED!</p>
        <td>«Printed in grey: closed</td>
        <div>what is «displayed in orange</div>
        <p>«written in purple</p>
        <p>low tide, (« rows in green)</p>
        "
        .replace("(« rows", "(«rows")
        .as_str(),
    );
    html().passes(&[
        "<p>Fields marked in red with an asterisk are needed.</p>",
        "<p>Fields in red (*) are needed.</p>",
        "<p>Late sailings are shown in bold and in red.</p>",
        "<p>The ferry is painted in red.</p>",
        "<p>shown in reddish light</p>",
        "<p>The quay in green is ours.</p>",
        "<p>shown in the red list</p>",
        "<p>marked <i>in red</i> today</p>",
        "<p>marked in {{ colour }}</p>",
        "<p>in red</p>",
        "<script>const a = 'marked in red';</script>",
    ]);
}

/// Elements that name each other, or contain what names them, are read once.
#[test]
fn names_that_lead_back_to_themselves_end() {
    let nested =
        format!("<button>{}{}</button>", "<figure><figcaption>".repeat(60), "</figcaption></figure>".repeat(60));
    for page in [
        r#"<h2 id="q"><nav aria-labelledby="q">a</nav></h2><nav aria-labelledby="q">b</nav>"#,
        r#"<button id="a" aria-labelledby="b"></button><button id="b" aria-labelledby="a"></button>"#,
        r#"<a href="/" id="a"><i aria-labelledby="a"></i></a>"#,
        "<label>Low <meter></meter><progress></progress><button></button></label>",
        r#"<label for="a"><button id="a"><output id="a"></output></button></label>"#,
        &nested,
    ] {
        for rule in ["button-text", "link-text", "control-label", "landmark-unique", "image-text", "label-in-name"] {
            drop(html(rule).run(page));
        }
    }
    html("button-text")
        .finds(r#"«<button id="a" aria-labelledby="b"></button>«<button id="b" aria-labelledby="a"></button>"#);
}

/// Of the page at the head of a package only the body is shown.
#[test]
fn a_comment_on_a_package_is_no_page_of_its_own() {
    let page = "<html><head></head><body>Tides.</body></html>";
    for rule in ["page-language", "page-title"] {
        html(rule).at("src/tides/package.html").passes(&[page]);
        assert_eq!(html(rule).at("src/tides/quays.html").run(page).findings.len(), 1, "{rule}");
    }
}
