//! Reads which values something may have: `[values]`.

use std::collections::BTreeMap;

use sieve_rules::{ListedValues, ValuePlace};
use toml::Spanned;
use toml::de::{DeTable, DeValue};

use super::file::Placed;
use super::reader::{Read, Reader};

impl Reader<'_> {
    /// `"resource.quay_light.colour" = ["red", "green"]`
    pub(super) fn listed_values(&self, table: &DeTable<'_>) -> Read<BTreeMap<String, Placed<ListedValues>>> {
        let mut listed = BTreeMap::new();
        for (key, value) in table {
            let name = key.get_ref().as_ref();
            let place = ValuePlace::parse(name);
            let place = place.map_err(|error| self.error(key.span(), format!("\"{name}\" names no value: {error}")))?;
            let allowed = self.array(value, "a list of values")?;
            let allowed = allowed.iter().map(|one| self.plain_value(one)).collect::<Read<Vec<_>>>()?;
            listed.insert(name.to_string(), self.placed(key, ListedValues { place, allowed }));
        }
        Ok(listed)
    }

    fn plain_value(&self, value: &Spanned<DeValue<'_>>) -> Read<String> {
        match value.get_ref() {
            DeValue::String(text) => Ok(text.to_string()),
            DeValue::Integer(number) => Ok(number.as_str().to_string()),
            DeValue::Float(number) => Ok(number.as_str().to_string()),
            DeValue::Boolean(flag) => Ok(flag.to_string()),
            _ => Err(self.wrong(value, "a string, a number, or true or false")),
        }
    }
}
