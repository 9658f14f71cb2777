//! Rules of the concern `upkeep`.

pub(super) mod broken_directive;
pub(super) mod expired_waiver;
pub(super) mod idle_scope;
pub(super) mod renamed_rule;
pub(super) mod stale_waiver;
pub(super) mod unexplained_waiver;
pub(super) mod unknown_waived_rule;
