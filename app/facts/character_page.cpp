#include "edit/project.h"
#include "facts/jump_envelope.h"
#include "facts/pages.h"

namespace rubble::app {

void fill_character(Page& page) {
    Session& session = page.session();
    page.add_heading(session.character_name());
    page.column().addWidget(new JumpEnvelope(session.documents()));
    for (const CharacterField& field : character_fields()) {
        page.add_number(
            {Facts::tr(field.label), QString::fromUtf8(field.unit), 0.05,
             [&session, &field] { return session.character().*field.member; },
             [&page, &session, &field](double to) {
                 const NamedCharacter* named = find_character(session.project(), session.level().character);
                 NamedCharacter copy =
                     named
                         ? *named
                         : NamedCharacter{session.level().character, session.level().character.value, {}, {}};
                 copy.metrics.*field.member = to;
                 if (const std::string problem = problem_of(copy.metrics); !problem.empty()) {
                     const CharacterField* at_fault = find_character_field(problem);
                     emit session.message(Facts::tr("%1 must lie between %2 and %3 and fit the other numbers")
                                              .arg(Facts::tr(at_fault->label))
                                              .arg(at_fault->least)
                                              .arg(at_fault->most));
                     page.refresh();
                     return;
                 }
                 session.apply(edit::with_character(session.project(), copy), Facts::tr("Metrics"));
             }});
    }
}

} // namespace rubble::app
