#include <QCheckBox>
#include <QColorDialog>
#include <QComboBox>
#include <QPushButton>

#include "edit/items.h"
#include "element_names.h"
#include "facts/pages.h"
#include "level/dressing/light.h"
#include "level/element_kinds.h"
#include "level/element_values.h"
#include "level/order.h"
#include "numbers.h"

namespace rubble::app {

namespace {

/// How a page looks at an element and changes it.
struct ElementEdit {
    ItemId id;
    std::function<Element()> now;
    std::function<void(const QString& what, std::function<void(Element&)> edit)> change;
};

void add_choice(Page& page, const ElementEdit& edit, const ElementField& field) {
    const QString name = element_field_name(field.key.c_str());
    auto* row = new QHBoxLayout;
    auto* choice = new QComboBox;
    choice->setAccessibleName(name);
    for (const std::string& one : field.choices)
        choice->addItem(element_choice_name(one.c_str()), QString::fromStdString(one));
    auto* label = new QLabel(name);
    label->setBuddy(choice);
    row->addWidget(label), row->addWidget(choice, 1);
    page.column().addLayout(row);
    QObject::connect(choice, &QComboBox::activated, &page, [edit, key = field.key, choice, name](int index) {
        edit.change(name, [&](Element& e) {
            e = with_value(std::move(e), key, choice->itemData(index).toString().toStdString());
        });
    });
    page.on_refresh([edit, &field, choice] {
        const std::string now = text_value(edit.now(), field.key, field.choices[0]);
        choice->setCurrentIndex(choice->findData(QString::fromStdString(now)));
    });
}

void add_flag(Page& page, const ElementEdit& edit, const ElementField& field) {
    const QString name = element_field_name(field.key.c_str());
    auto* box = new QCheckBox(name);
    page.column().addWidget(box);
    QObject::connect(box, &QCheckBox::clicked, &page, [edit, key = field.key, name](bool on) {
        edit.change(name, [&](Element& e) { e = with_value(std::move(e), key, on); });
    });
    page.on_refresh([edit, key = field.key, box] { box->setChecked(flag_value(edit.now(), key, false)); });
}

void add_size(Page& page, const ElementEdit& edit, const ElementField& field) {
    const QStringList sides{Facts::tr("Width"), Facts::tr("Depth"), Facts::tr("Height")};
    const Frame frame = page.session().level().frame;
    for (int axis = 0; axis < 3; ++axis) {
        if (frame == Frame::plan && axis == 2) continue; // nothing is asked of it there
        page.add_number({sides[axis], QStringLiteral("m"), page.session().grid_m(),
                         [edit, axis] { return size_of(edit.now())[axis]; },
                         [edit, axis, key = field.key, name = sides[axis]](double to) {
                             edit.change(name, [&](Element& e) {
                                 Vec3 size = size_of(e);
                                 size[axis] = to;
                                 e = with_value(std::move(e), key, size);
                             });
                         }});
    }
}

/// A speed along each axis.
void add_velocity(Page& page, const ElementEdit& edit, const ElementField& field) {
    const QStringList along{Facts::tr("Speed along x"), Facts::tr("Speed along y"),
                            Facts::tr("Speed upwards")};
    for (int axis = 0; axis < 3; ++axis) {
        if (page.session().level().frame == Frame::side && axis == 1) continue;
        page.add_number(
            {along[axis], QString::fromStdString(field.unit), 0.5,
             [edit, axis, &field] { return point_value(edit.now(), field.key, field.usual_size)[axis]; },
             [edit, axis, &field, name = along[axis]](double to) {
                 edit.change(name, [&](Element& e) {
                     Vec3 velocity = point_value(e, field.key, field.usual_size);
                     velocity[axis] = std::clamp(to, field.least, field.most);
                     e = with_value(std::move(e), field.key, velocity);
                 });
             }});
    }
}

/// Switches that swap a door, each with a way out, and those that could.
void add_switches(Page& page, const ElementEdit& edit, const ElementField& field) {
    Session& session = page.session();
    const QString name = element_field_name(field.key.c_str());
    const std::vector<std::string> now = texts_value(edit.now(), field.key);
    const auto set = [edit, key = field.key, name](std::vector<std::string> ids) {
        edit.change(name, [&](Element& e) { e = with_value(std::move(e), key, ids); });
    };
    for (const std::string& id : now) {
        const Item* item = find_item(session.level(), {id});
        const QString title = item ? QString::fromStdString(item->title())
                                   : Facts::tr("%1, which is not there").arg(QString::fromStdString(id));
        page.add_button(Facts::tr("No longer by %1").arg(title), [set, now, id] {
            std::vector<std::string> left = now;
            std::erase(left, id);
            set(left);
        });
    }
    auto* more = new QComboBox;
    more->setAccessibleName(name);
    more->addItem(Facts::tr("%1…").arg(name));
    for (const Item* item : elements_of(session.level()))
        if (acts_as(*item->element()) == "switch" &&
            std::find(now.begin(), now.end(), item->id.value) == now.end())
            more->addItem(QString::fromStdString(item->title()), QString::fromStdString(item->id.value));
    more->setEnabled(more->count() > 1);
    page.column().addWidget(more);
    QObject::connect(more, &QComboBox::activated, &page, [more, set, now](int index) {
        if (index <= 0) return;
        std::vector<std::string> ids = now;
        ids.push_back(more->itemData(index).toString().toStdString());
        set(ids);
    });
}

/// A colour, chosen in a dialog and shown on its button.
void add_color(Page& page, const ElementEdit& edit, const ElementField& field) {
    const QString name = element_field_name(field.key.c_str());
    QPushButton* button = page.add_button(name, [&page, edit, key = field.key, name] {
        const QColor chosen = QColorDialog::getColor(
            QColor(QString::fromStdString(text_value(edit.now(), key, "#BDB6A9"))), &page, name);
        if (!chosen.isValid()) return;
        edit.change(name,
                    [&](Element& e) { e = with_value(std::move(e), key, chosen.name().toStdString()); });
    });
    page.on_refresh([edit, key = field.key, button] {
        QPixmap picture(12, 12);
        picture.fill(QColor(QString::fromStdString(text_value(edit.now(), key, "#BDB6A9"))));
        button->setIcon(picture);
    });
}

void add_field(Page& page, const ElementEdit& edit, const ElementField& field) {
    const QString name = element_field_name(field.key.c_str());
    switch (field.type) {
    case FieldType::number:
        page.add_number({name, QString::fromStdString(field.unit),
                         std::max((field.most - field.least) / 1000, 0.1),
                         [edit, &field] { return number_of(edit.now(), field); },
                         [edit, &field, name](double to) {
                             edit.change(name, [&](Element& e) { e = with_number(e, field, to); });
                         }});
        break;
    case FieldType::flag:
        add_flag(page, edit, field);
        break;
    case FieldType::choice:
        add_choice(page, edit, field);
        break;
    case FieldType::text:
        page.add_line(
            name,
            [edit, &field] {
                return QString::fromStdString(text_value(edit.now(), field.key, field.usual_text));
            },
            [edit, &field, name](const QString& to) {
                edit.change(name, [&](Element& e) {
                    e = with_value(std::move(e), field.key, to.trimmed().toStdString());
                });
            });
        break;
    case FieldType::color:
        add_color(page, edit, field);
        break;
    case FieldType::size:
        add_size(page, edit, field);
        break;
    case FieldType::velocity:
        add_velocity(page, edit, field);
        break;
    case FieldType::items:
        add_switches(page, edit, field);
        break;
    case FieldType::places: {
        QLabel* text = page.add_text({});
        page.on_refresh([edit, &field, text] {
            const size_t count = points_value(edit.now(), field.key).size();
            text->setText(
                count < 2
                    ? Facts::tr("It stays where it is. Drag while placing one to give it a way, "
                                "or Ctrl+click with its tool to lengthen the way.")
                    : Facts::tr("Its way has %1 corners. Ctrl+click with its tool adds one.").arg(count));
        });
        break;
    }
    }
}

/// The level that a goal leads on to, with a way there.
void add_next_level(Page& page, const Element& goal) {
    const QString next = QString::fromStdString(text_value(goal, "leads_to"));
    if (next.isEmpty()) return;
    Session& session = page.session();
    if (const auto index = session.documents().level_named(next.toStdString()))
        page.add_button(Facts::tr("Go to %1").arg(next),
                        [&session, index] { session.documents().show_level(*index); });
    else
        page.add_text(Facts::tr("The project has no level called \"%1\".").arg(next), "meaning");
}

} // namespace

void fill_element(Page& page, Facts& facts, const ItemId& id) {
    Session& session = page.session();
    auto element = [&session, id]() -> Element {
        const Item* item = find_item(session.level(), id);
        return item && item->element() ? *item->element() : Element{};
    };
    const auto change = [&session, id](const QString& what, const std::function<void(Element&)>& edit) {
        const Item* item = find_item(session.stored_level(), id);
        if (!item || !item->element()) return;
        Item copy = *item;
        edit(std::get<Element>(copy.body));
        session.apply(edit::with_changed(session.stored_level(), copy), what);
    };
    add_title(page, id);
    add_name(page, id);
    const auto& result = session.built().check;
    const check::Place* place = nullptr;
    if (result)
        for (const auto& one : result->places)
            if (one.item == id) place = &one;
    const bool plays = !is_dressing(acts_as(element()));
    if (place && plays && role_of(element()) != Role::start && role_of(element()) != Role::device) {
        const QString who = session.character_name();
        switch (place->reached) {
        case check::Reached::yes:
            page.add_text(Facts::tr("%1 gets there in %2 s").arg(who).arg(place->time_s, 0, 'f', 1));
            break;
        case check::Reached::with_help:
            page.add_text(Facts::tr("%1 gets there only with a late jump").arg(who));
            break;
        case check::Reached::no:
            page.add_text(Facts::tr("%1 does not get there from the start").arg(who));
            break;
        case check::Reached::undecided:
            page.add_text(Facts::tr("Whether %1 gets there could not be decided").arg(who));
            break;
        }
        if (place->witness)
            add_watch(page, facts, *place->witness,
                      QString::fromStdString(find_item(session.level(), id)->title()));
        for (const auto& miss : result->near_misses)
            if (miss.to == id) add_near_miss(page, miss);
    }
    const QStringList axes{Facts::tr("x"), Facts::tr("y"), Facts::tr("z")};
    const Frame frame = session.level().frame;
    for (int axis = 0; axis < 3; ++axis) {
        if (frame != Frame::space && axis == layout_of(frame).out) continue; // nothing is asked of it there
        page.add_number(
            {axes[axis], Facts::tr("m"), session.grid_m(), [=] { return element().at[axis]; },
             [=](double to) { change(Facts::tr("Move"), [&](Element& e) { e.at[axis] = to; }); }});
    }
    page.add_number({Facts::tr("Facing"), QStringLiteral("°"), 15, [=] { return element().facing_deg; },
                     [=](double to) { change(Facts::tr("Turn"), [&](Element& e) { e.facing_deg = to; }); }});
    const ElementEdit edit{id, element, change};
    for (const ElementField& field : kind_of(element()).fields) add_field(page, edit, field);
    if (acts_as(element()) == "foe") {
        QLabel* watched = page.add_text({}, "meaning");
        page.on_refresh([&session, watched, id] {
            const auto& result = session.built().check;
            const check::FoeWatch* watch = nullptr;
            if (result)
                for (const check::FoeWatch& one : result->foe_watches)
                    if (one.foe == id) watch = &one;
            watched->setVisible(watch != nullptr);
            if (!watch) return;
            watched->setText(
                !watch->matters ? Facts::tr("The way to the goal does not come near it.")
                : !watch->from  ? Facts::tr("Nothing of its way is seen before one comes near it.")
                                : Facts::tr("Before one comes near it %1 % of its way are seen, from %2, %3.")
                                     .arg(watch->seen_share * 100, 0, 'f', 0)
                                     .arg(plain_number(watch->from->x), plain_number(watch->from->y)));
        });
    }
    if (role_of(element()) == Role::goal) add_next_level(page, element());
    offer_claims(page);
}

} // namespace rubble::app
