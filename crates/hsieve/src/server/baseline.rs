//! Findings that are recorded, one by one.

use serde_json::Value;
use sieve_engine::baseline::Baseline;
use sieve_engine::outcome::Finding;

use super::names::argument_path;
use super::session::Session;
use super::wire::Fault;

impl Session {
    /// Records one finding: the file, the rule, the line and the column.
    pub(super) fn record(&mut self, arguments: &[Value]) -> Result<Value, Fault> {
        let path = argument_path(arguments.first())?;
        let wrong = || Fault::new(Fault::INVALID_PARAMS, "a rule, a line and a column are needed");
        let rule = arguments.get(1).and_then(Value::as_str).ok_or_else(wrong)?;
        let number = |at: usize| arguments.get(at).and_then(Value::as_u64).ok_or_else(wrong);
        let (line, column) = (number(2)?, number(3)?);
        self.look_at(&path);
        let rules = self.rules_of(&path)?;
        let is_it = |finding: &&Finding| {
            let (start, name) = (finding.start, rules.name(finding.rule));
            name == rule && (u64::from(start.line), u64::from(start.column)) == (line, column) && finding.held.is_none()
        };
        let found = self.checked.get(&path).and_then(|checked| checked.findings.iter().find(is_it)).cloned();
        let found = found.ok_or_else(|| Fault::new(Fault::FAILED, format!("there is no {rule} at {line}:{column}")))?;
        let index = self.folder_of(&path);
        let project = self.folders[index].near.project();
        let failed = |error: &dyn std::fmt::Display| Fault::new(Fault::FAILED, error.to_string());
        let known = Baseline::find(project).map_err(|error| failed(&error))?;
        let mut baseline = known.unwrap_or_else(|| Baseline::empty(Baseline::path_in(project)));
        baseline.add(project, std::iter::once(&found), &rules, sieve_engine::today());
        baseline.write().map_err(|error| failed(&error))?;
        self.folders[index].reload_baseline();
        self.look_at(&path);
        self.look_far_later();
        Ok(Value::Null)
    }
}
