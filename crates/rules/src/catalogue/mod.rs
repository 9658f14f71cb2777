//! Every rule there is: a folder for each concern, a file for each rule.

mod access;
mod boundary;
mod clarity;
pub(crate) mod docs;
mod hazard;
pub mod history;
mod layout;
mod leftover;
mod mistake;
mod naming;
mod portable;
mod syntax;
mod upkeep;

use crate::interface::{Rule, RuleId};

/// All rules, sorted by name; a rule's index here is its id.
static RULES: &[&Rule] = &[
    &mistake::ambiguous_scalar::RULE,
    &mistake::argument_count::RULE,
    &layout::arrow_parentheses::RULE,
    &mistake::assigned_condition::RULE,
    &mistake::assigned_constant::RULE,
    &mistake::async_callback::RULE,
    &naming::async_suffix::RULE,
    &mistake::attribute_slip::RULE,
    &mistake::bad_colour::RULE,
    &mistake::bad_nesting::RULE,
    &boundary::banned_call::RULE,
    &boundary::banned_import::RULE,
    &boundary::banned_member::RULE,
    &naming::banned_name::RULE,
    &layout::blank_lines::RULE,
    &layout::brace_line::RULE,
    &layout::bracket_spacing::RULE,
    &clarity::branch_count::RULE,
    &mistake::broken_chain::RULE,
    &upkeep::broken_directive::RULE,
    &syntax::broken_syntax::RULE,
    &access::button_text::RULE,
    &mistake::caught_non_error::RULE,
    &mistake::changed_in_loop::RULE,
    &layout::colon_spacing::RULE,
    &layout::comma_spacing::RULE,
    &layout::comment_marker::RULE,
    &layout::comment_space::RULE,
    &clarity::compare_with_boolean::RULE,
    &mistake::constant_comparison::RULE,
    &mistake::constant_condition::RULE,
    &naming::constant_name::RULE,
    &mistake::constant_test::RULE,
    &access::control_label::RULE,
    &mistake::dangling_reference::RULE,
    &clarity::deep_nesting::RULE,
    &portable::dialect_feature::RULE,
    &docs::doc_mismatch::RULE,
    &mistake::dropped_comparison::RULE,
    &mistake::early_trap::RULE,
    &leftover::empty_block::RULE,
    &docs::empty_doc::RULE,
    &leftover::empty_rule::RULE,
    &mistake::endless_count::RULE,
    &layout::entry_indent::RULE,
    &clarity::equality_chain::RULE,
    &hazard::eval_call::RULE,
    &upkeep::expired_waiver::RULE,
    &mistake::fall_through::RULE,
    &clarity::few_methods::RULE,
    &naming::file_name::RULE,
    &layout::final_newline::RULE,
    &mistake::forgotten_await::RULE,
    &mistake::format_from_variable::RULE,
    &access::frame_title::RULE,
    &naming::function_name::RULE,
    &access::heading_order::RULE,
    &mistake::hidden_builtin::RULE,
    &access::hidden_focusable::RULE,
    &mistake::hook_in_branch::RULE,
    &hazard::html_by_joining::RULE,
    &clarity::id_selector::RULE,
    &mistake::identity_of_literal::RULE,
    &mistake::idle_handler::RULE,
    &upkeep::idle_scope::RULE,
    &mistake::ignored_result::RULE,
    &access::image_text::RULE,
    &layout::import_order::RULE,
    &clarity::important_flag::RULE,
    &mistake::imprecise_number::RULE,
    &layout::indent_width::RULE,
    &mistake::invalid_escape::RULE,
    &mistake::invalid_mode::RULE,
    &mistake::invalid_pattern::RULE,
    &hazard::javascript_address::RULE,
    &layout::key_order::RULE,
    &access::keyboard_handler::RULE,
    &mistake::keyless_element::RULE,
    &layout::keyword_spacing::RULE,
    &access::label_in_name::RULE,
    &mistake::late_bound_variable::RULE,
    &mistake::left_in_finally::RULE,
    &portable::letter_case_clash::RULE,
    &mistake::library_call::RULE,
    &layout::line_ending::RULE,
    &mistake::lines_by_splitting::RULE,
    &access::link_text::RULE,
    &mistake::list_files_by_glob::RULE,
    &access::list_structure::RULE,
    &boundary::local_import::RULE,
    &clarity::long_file::RULE,
    &clarity::long_function::RULE,
    &layout::long_line::RULE,
    &mistake::loop_runs_once::RULE,
    &mistake::lost_in_pipe::RULE,
    &clarity::magic_number::RULE,
    &clarity::many_parameters::RULE,
    &clarity::many_returns::RULE,
    &clarity::many_types_in_file::RULE,
    &mistake::masked_status::RULE,
    &mistake::maybe_unset::RULE,
    &naming::member_name::RULE,
    &mistake::member_of_none::RULE,
    &mistake::membership_in_string::RULE,
    &mistake::misplaced_statement::RULE,
    &mistake::missing_comma::RULE,
    &docs::missing_doc::RULE,
    &mistake::missing_export::RULE,
    &mistake::missing_fallback_family::RULE,
    &mistake::missing_file::RULE,
    &mistake::missing_member::RULE,
    &mistake::missing_return::RULE,
    &mistake::missing_self::RULE,
    &mistake::missing_super::RULE,
    &mistake::missing_test_space::RULE,
    &hazard::mixed_content::RULE,
    &mistake::mixed_types_in_list::RULE,
    &access::moving_media::RULE,
    &mistake::mutable_default::RULE,
    &clarity::needless_lambda::RULE,
    &clarity::needless_template::RULE,
    &clarity::negated_condition::RULE,
    &mistake::negated_left::RULE,
    &clarity::nested_conditional::RULE,
    &syntax::nested_too_deep::RULE,
    &mistake::number_test_of_word::RULE,
    &leftover::obsolete_element::RULE,
    &mistake::octal_number::RULE,
    &layout::operator_spacing::RULE,
    &access::page_language::RULE,
    &access::page_title::RULE,
    &naming::parameter_name::RULE,
    &hazard::pipe_to_shell::RULE,
    &mistake::placeholder_count::RULE,
    &mistake::pointless_statement::RULE,
    &access::positive_tabindex::RULE,
    &layout::quote_style::RULE,
    &mistake::quoted_pattern::RULE,
    &mistake::quoted_tilde::RULE,
    &mistake::raised_non_error::RULE,
    &mistake::raw_read::RULE,
    &mistake::read_and_written::RULE,
    &mistake::redirected_sudo::RULE,
    &mistake::redirected_test::RULE,
    &mistake::redirection_order::RULE,
    &access::redundant_role::RULE,
    &hazard::remove_with_variable::RULE,
    &upkeep::renamed_rule::RULE,
    &mistake::repeated_attribute::RULE,
    &clarity::repeated_block::RULE,
    &mistake::repeated_condition::RULE,
    &mistake::repeated_declaration::RULE,
    &mistake::repeated_definition::RULE,
    &mistake::repeated_id::RULE,
    &leftover::repeated_import::RULE,
    &mistake::repeated_key::RULE,
    &mistake::repeated_parameter::RULE,
    &mistake::repeated_target::RULE,
    &mistake::returned_in_setter::RULE,
    &mistake::reversed_operator::RULE,
    &access::role_attributes::RULE,
    &access::role_known::RULE,
    &mistake::same_branches::RULE,
    &mistake::same_operands::RULE,
    &mistake::schema_check::RULE,
    &hazard::secret_in_source::RULE,
    &mistake::self_assignment::RULE,
    &layout::semicolons::RULE,
    &mistake::shared_attribute::RULE,
    &hazard::shell_with_text::RULE,
    &mistake::shorthand_overrides::RULE,
    &mistake::spaced_assignment::RULE,
    &mistake::special_method::RULE,
    &hazard::sql_by_joining::RULE,
    &layout::stacked_statements::RULE,
    &upkeep::stale_waiver::RULE,
    &mistake::state_while_drawing::RULE,
    &mistake::status_range::RULE,
    &syntax::stray_end_tag::RULE,
    &mistake::swallowed_error::RULE,
    &layout::tabs::RULE,
    &hazard::temp_file_by_name::RULE,
    &mistake::this_before_super::RULE,
    &naming::too_short_name::RULE,
    &layout::trailing_comma::RULE,
    &layout::trailing_space::RULE,
    &naming::type_name::RULE,
    &mistake::unchecked_cd::RULE,
    &syntax::unclosed_element::RULE,
    &mistake::undefined_name::RULE,
    &upkeep::unexplained_waiver::RULE,
    &mistake::unformatted_string::RULE,
    &mistake::unknown_alias::RULE,
    &mistake::unknown_element::RULE,
    &mistake::unknown_keyword::RULE,
    &mistake::unknown_property::RULE,
    &mistake::unknown_pseudo::RULE,
    &mistake::unknown_unit::RULE,
    &upkeep::unknown_waived_rule::RULE,
    &mistake::unpacking_count::RULE,
    &mistake::unquoted_arguments::RULE,
    &mistake::unquoted_expansion::RULE,
    &mistake::unquoted_pattern::RULE,
    &mistake::unraised_error::RULE,
    &mistake::unreachable_case::RULE,
    &leftover::unreachable_code::RULE,
    &hazard::unsafe_load::RULE,
    &leftover::unused_anchor::RULE,
    &leftover::unused_export::RULE,
    &leftover::unused_function::RULE,
    &leftover::unused_import::RULE,
    &leftover::unused_member::RULE,
    &leftover::unused_variable::RULE,
    &naming::variable_name::RULE,
    &mistake::variable_slip::RULE,
    &portable::version_feature::RULE,
    &hazard::weak_digest::RULE,
    &hazard::wide_permission::RULE,
    &boundary::wildcard_import::RULE,
    &clarity::zero_unit::RULE,
    &access::zoom_blocked::RULE,
];

/// All rules with their ids, sorted by name.
pub fn rules() -> impl ExactSizeIterator<Item = (RuleId, &'static Rule)> + Clone {
    RULES.iter().enumerate().map(|(index, rule)| (RuleId(index as u16), *rule))
}

/// The rule with an id.
pub fn rule(id: RuleId) -> &'static Rule {
    RULES[id.0 as usize]
}

/// The id of the rule with a name.
pub fn named(name: &str) -> Option<RuleId> {
    RULES.binary_search_by_key(&name, |rule| rule.name).ok().map(|index| RuleId(index as u16))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::interface::Examples;

    #[test]
    fn rules_are_sorted_by_name() {
        assert!(RULES.is_sorted_by_key(|rule| rule.name));
    }

    #[test]
    fn names_and_texts_keep_to_their_form() {
        for (_, rule) in rules() {
            assert!(rule.name.bytes().all(|byte| byte.is_ascii_lowercase() || byte == b'-'), "{}", rule.name);
            assert!(!rule.what.ends_with('.') && !rule.what.contains('\n'), "{}: what", rule.name);
            assert!(rule.why.ends_with('.') && rule.silent.ends_with('.'), "{}: why, silent", rule.name);
            let shown = |examples: &Examples| !examples.wrong.is_empty() && !examples.right.is_empty();
            assert!(!rule.examples.is_empty() && rule.examples.iter().all(shown), "{}: examples", rule.name);
            assert_eq!(rule.options.is_empty(), rule.options.iter().all(|option| option.about.is_empty()));
        }
    }
}
