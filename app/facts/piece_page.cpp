#include <algorithm>
#include <cmath>

#include <QCheckBox>
#include <QComboBox>

#include "commands/props.h"
#include "edit/items.h"
#include "edit/pieces.h"
#include "facts/pages.h"
#include "kits/bring_in_dialog.h"
#include "level/turning.h"
#include "numbers.h"

namespace rubble::app {

namespace {

/// How a page looks at the selected pieces and changes them all alike.
struct PieceEditing {
    Session& session;
    std::vector<ItemId> ids;

    std::vector<PlacedPiece> now() const {
        std::vector<PlacedPiece> out;
        for (const Item* item : chosen_items(session.level(), ids))
            if (item->piece()) out.push_back(*item->piece());
        return out;
    }
    PlacedPiece first() const {
        const auto all = now();
        return all.empty() ? PlacedPiece{} : all.front();
    }
    void change(const QString& what, const std::function<void(PlacedPiece&)>& edit) const {
        std::vector<Item> changed;
        for (const Item* item : chosen_items(session.stored_level(), ids)) {
            if (!item->piece()) continue;
            Item copy = *item;
            edit(std::get<PlacedPiece>(copy.body));
            if (problem_of(copy).empty()) changed.push_back(std::move(copy));
        }
        session.apply(edit::with_all_changed(session.stored_level(), changed), what);
    }
    double shared(const std::function<double(const PlacedPiece&)>& get) const {
        std::vector<double> values;
        for (const PlacedPiece& placed : now()) values.push_back(get(placed));
        return shared_number(values);
    }
};

void add_number(Page& page, const PieceEditing& editing, const QString& name, const QString& unit,
                double step, const std::function<double(const PlacedPiece&)>& get,
                const std::function<void(PlacedPiece&, double)>& set) {
    NumberRow row{name, unit, step, [=] { return editing.shared(get); },
                  [=](double to) { editing.change(name, [&](PlacedPiece& placed) { set(placed, to); }); }};
    row.change_by = [=](double by) {
        editing.change(name, [&](PlacedPiece& placed) { set(placed, get(placed) + by); });
    };
    page.add_number(std::move(row));
}

/// Where a piece stands in modules, and whether that is where it belongs.
QString module_text(const Kit& kit, const PlacedPiece& placed) {
    const Box3 box = edit::cells_box(kit, placed);
    const Vec3 module = edit::module_as_turned(kit, placed), off = edit::off_module(kit, placed);
    const auto count = [&](int axis) {
        return plain_number(std::round(box.low[axis] / module[axis] * 1000) / 1000);
    };
    const QString where = Facts::tr("Module %1 · %2 · %3").arg(count(0), count(1), count(2));
    if (glm::length(off) < 1e-5) return where;
    return where + '\n' + Facts::tr("%1 off the module").arg(metres_text(glm::length(off)));
}

void add_module(Page& page, const PieceEditing& editing) {
    QLabel* text = page.add_text({}, "meaning");
    QPushButton* right = page.add_button(Facts::tr("Put onto the module"), [editing] {
        editing.change(Facts::tr("Put onto the module"), [&](PlacedPiece& placed) {
            if (const auto kit = find_kit(editing.session.project(), placed.kit_file))
                placed = edit::on_module(*kit, std::move(placed));
        });
    });
    page.on_refresh([=] {
        bool off = false;
        const auto pieces = editing.now();
        for (const PlacedPiece& placed : pieces)
            if (const auto kit = find_kit(editing.session.project(), placed.kit_file))
                off |= glm::length(edit::off_module(*kit, placed)) > 1e-5;
        const auto kit = pieces.empty() ? nullptr : find_kit(editing.session.project(), pieces[0].kit_file);
        const bool on_module = pieces.size() == 1 && kit && !is_prop(pieces[0]);
        text->setVisible(on_module);
        if (on_module) text->setText(module_text(*kit, pieces[0]));
        right->setVisible(off);
    });
}

void add_exchange(Page& page, const PieceEditing& editing) {
    auto* choice = new QComboBox;
    choice->setAccessibleName(Facts::tr("Piece"));
    choice->setToolTip(Facts::tr("Exchange it for another piece of its kit, in its place"));
    page.column().addWidget(choice);
    page.on_refresh([=] {
        choice->clear();
        const PlacedPiece first = editing.first();
        const auto kit = find_kit(editing.session.project(), first.kit_file);
        if (!kit)
            return choice->addItem(Facts::tr("%1, missing").arg(QString::fromStdString(first.piece_id)));
        for (const auto& piece : kit->pieces) {
            choice->addItem(QString::fromStdString(piece->name), QString::fromStdString(piece->id));
            if (piece->id == first.piece_id) choice->setCurrentIndex(choice->count() - 1);
        }
    });
    QObject::connect(choice, &QComboBox::activated, &page, [=](int index) {
        const std::string to = choice->itemData(index).toString().toStdString();
        if (to.empty()) return;
        editing.session.apply(edit::with_pieces_exchanged(editing.session.project(),
                                                          editing.session.stored_level(), editing.ids, to),
                              Facts::tr("Exchange pieces"));
    });
}

void add_collision(Page& page, const PieceEditing& editing) {
    auto* choice = new QComboBox;
    choice->setAccessibleName(Facts::tr("Met as"));
    choice->setToolTip(Facts::tr("What keeps the character out here; the kit says what does everywhere"));
    choice->addItem(Facts::tr("Met as its kit says"));
    for (const QString& name : collision_names()) choice->addItem(Facts::tr("Met as: %1").arg(name));
    page.column().addWidget(choice);
    page.on_refresh([=] {
        const PlacedPiece first = editing.first();
        choice->setCurrentIndex(first.collision ? index_of(*first.collision) + 1 : 0);
    });
    QObject::connect(choice, &QComboBox::activated, &page, [=](int index) {
        editing.change(Facts::tr("What a piece is met as"), [&](PlacedPiece& placed) {
            placed.collision = index == 0 ? std::nullopt : std::optional(collision_at(index - 1));
        });
    });
}

} // namespace

void fill_pieces(Page& page) {
    Session& session = page.session();
    const PieceEditing editing{session, session.selection()};
    const Frame frame = session.level().frame;
    if (editing.ids.size() == 1) {
        add_title(page, editing.ids[0]);
        add_name(page, editing.ids[0]);
    } else {
        page.add_heading(counted(int(editing.ids.size()), Facts::tr("piece"), Facts::tr("pieces")));
    }
    add_exchange(page, editing);
    add_module(page, editing);
    const QStringList axes{Facts::tr("x"), Facts::tr("y"), Facts::tr("z")};
    for (int axis = 0; axis < 3; ++axis)
        if (is_asked(frame, axis))
            add_number(
                page, editing, Facts::tr("Origin, %1").arg(axes[axis]), Facts::tr("m"), session.grid_m(),
                [axis](const PlacedPiece& p) { return p.place.at[axis]; },
                [axis](PlacedPiece& p, double to) { p.place.at[axis] = to; });
    add_number(
        page, editing, Facts::tr("Turned"), QStringLiteral("°"), 90,
        [frame](const PlacedPiece& p) { return shown_turn_deg(p.place, frame).value_or(0); },
        [frame](PlacedPiece& p, double to) { p.place = with_shown_turn(p.place, frame, to); });
    const auto all = editing.now();
    if (std::all_of(all.begin(), all.end(), [](const PlacedPiece& p) { return is_prop(p); })) {
        add_number(
            page, editing, Facts::tr("Sized"), QStringLiteral("×"), 0.1,
            [](const PlacedPiece& p) { return p.sized; },
            [](PlacedPiece& p, double to) { p.sized = std::clamp(to, least_sized, most_sized); });
        page.add_button(Facts::tr("Set down"), [&session] { set_props_down(session); });
    }
    auto* mirrored = new QCheckBox(Facts::tr("Mirrored"));
    mirrored->setAccessibleName(mirrored->text());
    page.column().addWidget(mirrored);
    page.on_refresh([=] { mirrored->setChecked(editing.first().mirrored); });
    QObject::connect(mirrored, &QCheckBox::clicked, &page, [=](bool on) {
        editing.change(Facts::tr("Mirrored"), [&](PlacedPiece& placed) { placed.mirrored = on; });
    });
    add_collision(page, editing);
    add_values(
        page, Facts::tr("For the game, of this place"), [editing] { return editing.first().values; },
        [editing](Extra values) {
            editing.change(Facts::tr("Values for the game"),
                           [&](PlacedPiece& placed) { placed.values = values; });
        });
    QLabel* about = page.add_text({});
    page.on_refresh([=] {
        const PlacedPiece first = editing.first();
        if (!first.piece || !first.piece->body)
            return about->setText(
                Facts::tr("Its model could not be read: %1").arg(QString::fromStdString(first.kit_file)));
        const Vec3& size = first.piece->size_m;
        const PieceBody& body = *first.piece->body;
        about->setText(
            Facts::tr("%1 × %2 × %3 m, %4 triangles\nKeeps out by %5,\n%6 m³")
                .arg(plain_number(size.x), plain_number(size.y), plain_number(size.z))
                .arg(numbers_of(body.model).triangles)
                .arg(counted(int(body.matter.size()), Facts::tr("convex body"), Facts::tr("convex bodies")))
                .arg(plain_number(std::round(body.matter_m3 * 1000) / 1000)) +
            (body.remark.empty() ? QString() : '\n' + QString::fromStdString(body.remark)));
    });
}

} // namespace rubble::app
