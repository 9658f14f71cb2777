use sieve_syntax::language::Language;
use sieve_syntax::tree::{Kind, NodeRef};

use super::OF_ELEMENTS;
use crate::interface::{Check, Context, Examples, Rule, Wrong};
use crate::markup::{Tag, Value};

pub(in crate::catalogue) static RULE: Rule = Rule {
    name: "moving-media",
    what: "sound that begins by itself and that nothing stops, or text that moves",
    why: "Sound drowns out the voice of a screen reader, and what moves keeps people who are easily distracted, or who read slowly, from the rest of the \
          page. To see it, open the page and look for what stops it.",
    silent: "Where attributes are spread or filled in, and where controls are shown or the sound is off.",
    standards: &["WCAG 2.2 A, 1.4.2 Audio Control", "WCAG 2.2 A, 2.2.2 Pause, Stop, Hide"],
    examples: &[
        Examples {
            language: Language::Html,
            wrong: &[
                Wrong { code: "<audio src=\"horn.mp3\" autoplay></audio>\n", at: &["1:23"], fixed: None },
                Wrong { code: "<marquee>High tide</marquee>\n", at: &["1:1"], fixed: None },
            ],
            right: &[
                "<video src=\"ferry.mp4\" autoplay muted loop></video>\n<audio src=\"horn.mp3\" autoplay controls></audio>\n<audio src=\"horn.mp3\"></audio>\n",
            ],
        },
        Examples {
            language: Language::Tsx,
            wrong: &[Wrong { code: "const horn = <audio src={horn} autoPlay />;\n", at: &["1:32"], fixed: None }],
            right: &[
                "const horn = <audio src={horn} autoPlay={isOn} />;\nconst film = <video src={film} autoPlay muted />;\n",
            ],
        },
    ],
    check: Check::Nodes(&[Kind::Element], check),
    ..OF_ELEMENTS
};

fn check(context: &mut Context, element: NodeRef) {
    let Some(tag) = Tag::shown(context, element) else { return };
    match &*tag.name {
        "marquee" | "blink" => {
            context
                .report(tag.head(), "this text moves, and nothing stops it")
                .advice("write it without movement, or let people stop it");
        }
        "audio" | "video" => {
            let begins = matches!(tag.value("autoplay"), Value::Text(_));
            let can_be_stopped = ["controls", "muted"].iter().any(|name| !tag.value(name).is_absent());
            if let Some(attribute) = tag.attribute("autoplay").filter(|_| begins && !can_be_stopped) {
                context
                    .report(attribute.span(), "this begins to sound by itself, and nothing stops it")
                    .advice("show controls, begin without sound, or let people begin it");
            }
        }
        _ => {}
    }
}
