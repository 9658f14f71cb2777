//! Reads what names look like: `[naming]`, `[naming.LANGUAGE]`, and `naming` of a scope.

use std::collections::BTreeMap;

use regex::RegexBuilder;
use sieve_rules::{NAMED_KINDS, NameForm, NameStyle, NamingKey, kinds_of, traits_of};
use sieve_syntax::language::Language;
use toml::Spanned;
use toml::de::DeValue;

use super::file::Placed;
use super::reader::{Read, Reader};

/// The largest compiled regular expression, in bytes: a short text may represent a very large one.
const LARGEST_PATTERN: usize = 1 << 20;

type Forms = BTreeMap<NamingKey, Placed<NameForm>>;
type Value<'v> = Spanned<DeValue<'v>>;

/// What a form of names may have.
const PARTS: &[&str] = &["always", "never", "pattern", "prefix", "style", "suffix"];

impl Reader<'_> {
    pub(super) fn naming(&self, value: &Value<'_>) -> Read<Forms> {
        let mut forms = Forms::new();
        for (key, value) in self.table(value, "naming")? {
            let name = key.get_ref().as_ref();
            let Some(language) = Language::named(name) else {
                self.name_form(&mut forms, None, key, value)?;
                continue;
            };
            for (key, value) in self.table(value, &format!("naming.{name}"))? {
                self.name_form(&mut forms, Some(language), key, value)?;
            }
        }
        Ok(forms)
    }

    fn name_form(
        &self,
        forms: &mut Forms,
        language: Option<Language>,
        key: &Spanned<impl AsRef<str>>,
        value: &Value<'_>,
    ) -> Read<()> {
        let Some(kind) = NAMED_KINDS.iter().position(|kind| *kind == key.get_ref().as_ref()) else {
            let languages = Language::ALL.iter().map(|language| language.name()).filter(|_| language.is_none());
            let known: Vec<&str> = NAMED_KINDS.iter().copied().chain(languages).collect();
            return self.no_key(key, "there is no setting \"naming.", &known);
        };
        if let Some(language) = language.filter(|language| !kinds_of(*language).contains(&NAMED_KINDS[kind])) {
            let known = kinds_of(language).join(", ");
            let message =
                format!("{} has no names of the sort \"{}\": it has {known}", language.name(), NAMED_KINDS[kind]);
            return Err(self.error(key.span(), message));
        }
        let form = match value.get_ref() {
            DeValue::Table(_) => self.whole_form(value)?,
            _ => NameForm { styles: self.styles(value)?, ..NameForm::default() },
        };
        let may_hold_hyphens =
            NAMED_KINDS[kind] == "file" || language.is_some_and(|language| traits_of(language).hyphens_in_names);
        if !may_hold_hyphens && form.styles.contains(&NameStyle::LowerKebab) {
            let message = format!(
                "the name of a {} cannot hold a hyphen: {} is for files",
                NAMED_KINDS[kind],
                NameStyle::LowerKebab
            );
            return Err(self.error(value.span(), message));
        }
        forms.insert(NamingKey { language, kind }, self.placed(key, form));
        Ok(())
    }

    /// `{ style = "camelCase", prefix = "I" }`.
    fn whole_form(&self, value: &Value<'_>) -> Read<NameForm> {
        let mut form = NameForm::default();
        for (key, value) in self.table(value, "a form of names")? {
            match key.get_ref().as_ref() {
                "style" => form.styles = self.styles(value)?,
                "prefix" => form.prefix = self.name_part(value)?,
                "suffix" => form.suffix = self.name_part(value)?,
                "pattern" => {
                    let text = self.string(value)?;
                    let pattern = RegexBuilder::new(text).size_limit(LARGEST_PATTERN).build();
                    form.pattern = Some(pattern.map_err(|error| {
                        let reason = error.to_string();
                        let reason = reason.lines().last().unwrap_or_default().trim_start_matches("error: ");
                        self.error(value.span(), format!("\"{text}\" is no regular expression: {reason}"))
                    })?);
                }
                "always" => form.always = self.names(value)?,
                "never" => form.never = self.names(value)?,
                _ => return self.no_key(key, "a form of names has no \"", PARTS),
            }
        }
        self.agrees(&form, value)?;
        Ok(form)
    }

    /// Refuses a form that no name could have, or that says two things of one name.
    fn agrees(&self, form: &NameForm, value: &Value<'_>) -> Read<()> {
        if let Some(both) = form.always.iter().find(|name| form.never.contains(name)) {
            return Err(self.error(value.span(), format!("\"{both}\" cannot be always right and never right")));
        }
        let Some(pattern) = &form.pattern else { return Ok(()) };
        let styles = if form.styles.is_empty() { NameStyle::ALL } else { &form.styles };
        let sides = [
            ("prefix", &form.prefix, pattern.as_str().starts_with('^')),
            ("suffix", &form.suffix, pattern.as_str().ends_with('$')),
        ];
        for (side, text, is_fixed) in sides {
            let fits = |words: &str| {
                styles
                    .iter()
                    .any(|style| pattern.is_match(&format!("{}{}{}", form.prefix, style.write(words), form.suffix)))
            };
            if is_fixed && !text.is_empty() && !["quay", "north_quay", "a", "a1"].into_iter().any(fits) {
                let message = format!("the {side} \"{text}\" and the pattern \"{pattern}\" cannot both hold");
                return Err(self.error(value.span(), message));
            }
        }
        Ok(())
    }

    /// One style, or several of which one is to hold; `any` represents all.
    fn styles(&self, value: &Value<'_>) -> Read<Vec<NameStyle>> {
        let one = |value: &Value<'_>| self.word(value, "a style of names", NameStyle::ALL, NameStyle::word);
        match value.get_ref() {
            DeValue::String(text) if text == "any" => Ok(Vec::new()),
            DeValue::Array(all) => {
                let mut styles = Vec::new();
                for item in all.iter() {
                    let style = one(item)?;
                    if styles.contains(&style) {
                        return Err(self.error(item.span(), format!("\"{style}\" is given twice")));
                    }
                    styles.push(style);
                }
                Ok(styles)
            }
            _ => Ok(vec![one(value)?]),
        }
    }

    /// A text that may be part of a name.
    fn name_part(&self, value: &Value<'_>) -> Read<String> {
        let text = self.string(value)?;
        if text.chars().all(|part| part.is_alphanumeric() || matches!(part, '_' | '$' | '-')) {
            Ok(text.to_string())
        } else {
            Err(self.error(value.span(), format!("\"{text}\" cannot be part of a name")))
        }
    }

    fn names(&self, value: &Value<'_>) -> Read<Vec<String>> {
        self.array(value, "a list of names")?.iter().map(|item| self.string(item).map(str::to_owned)).collect()
    }
}
