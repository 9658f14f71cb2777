//! Reads which elements components put out: `[components]`.

use std::collections::BTreeMap;

use sieve_rules::element_names;
use toml::de::DeTable;

use super::error::nearest;
use super::file::Placed;
use super::reader::{Read, Reader};

impl Reader<'_> {
    /// `Link = "a"`
    pub(super) fn components(&self, table: &DeTable<'_>) -> Read<BTreeMap<String, Placed<String>>> {
        let mut components = BTreeMap::new();
        for (key, value) in table {
            let name = key.get_ref().as_ref();
            if !is_component(name) {
                let message = format!("\"{name}\" is not the name of a component: these begin with a capital letter");
                return Err(self.error(key.span(), message));
            }
            let element = self.string(value)?;
            if !element_names().any(|known| known == element) {
                let hint = nearest(element, element_names().collect::<Vec<_>>().into_iter());
                return Err(self.error(value.span(), format!("there is no element \"{element}\"{hint}")));
            }
            components.insert(name.to_string(), self.placed(key, element.to_string()));
        }
        Ok(components)
    }
}

/// Whether a name is one that code gives a component: `Link`, `Quay.Link`.
fn is_component(name: &str) -> bool {
    let is_part = |part: &str| {
        !part.is_empty() && part.chars().all(|letter| letter.is_alphanumeric() || matches!(letter, '_' | '$'))
    };
    (name.starts_with(char::is_uppercase) || name.contains('.')) && name.split('.').all(is_part)
}
