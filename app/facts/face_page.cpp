#include <cmath>
#include <limits>

#include <QCheckBox>
#include <QComboBox>

#include "commands/dressing.h"
#include "edit/project.h"
#include "facts/pages.h"

namespace rubble::app {

namespace {

/// The looks of the picked faces that are there.
std::vector<Look> picked_looks(const Session& session) {
    std::vector<Look> out;
    for (const edit::FaceRef& face : session.selected_items().faces())
        if (const Item* item = find_item(session.level(), face.item); item && item->brush())
            out.push_back(edit::look_of(*item->brush(), face.face));
    return out;
}

/// What all of them have; nothing where they differ.
template <class Get> auto shared_by(const std::vector<Look>& looks, Get get) {
    using Value = decltype(get(looks[0]));
    std::optional<Value> out;
    for (const Look& look : looks) {
        if (out && !(*out == get(look))) return std::optional<Value>{};
        out = get(look);
    }
    return out;
}

Vec2 metres_of(const Session& session, const Look& look) {
    const Material* material = find_material(session.project(), look.material);
    return look.lay.metres.value_or(material ? material->metres : Vec2(1));
}

/// A number of all picked faces' lays.
void add_lay_number(Page& page, const QString& name, const QString& unit, double step,
                    std::function<double(const Look&)> get, std::function<void(Lay&, double)> set) {
    Session& session = page.session();
    NumberRow row{name, unit, step, {}, {}, {}, {}};
    row.value = [&session, get] {
        const auto looks = picked_looks(session);
        return looks.empty() ? 0 : shared_by(looks, get).value_or(std::numeric_limits<double>::quiet_NaN());
    };
    row.change = [&session, name, set](double value) {
        change_lays(session, name, [&](Lay& lay) { set(lay, value); });
    };
    page.add_number(std::move(row));
}

void add_kind(Page& page) {
    Session& session = page.session();
    auto* kind = new QComboBox;
    kind->setAccessibleName(Facts::tr("The picture goes along with"));
    kind->setToolTip(Facts::tr("What the picture goes along with"));
    kind->setPlaceholderText(Facts::tr("mixed"));
    kind->addItems({Facts::tr("Over the level"), Facts::tr("With the brush"), Facts::tr("Round the corner"),
                    Facts::tr("Fitted")});
    page.column().addWidget(kind);
    page.on_refresh([&session, kind] {
        const QSignalBlocker block(kind);
        const auto looks = picked_looks(session);
        const auto shared = shared_by(looks, [](const Look& look) { return look.lay.kind; });
        kind->setCurrentIndex(shared ? int(*shared) : -1);
    });
    QObject::connect(kind, &QComboBox::activated, &page, [&session](int chosen) {
        if (LayKind(chosen) == LayKind::fitted) return fit_lays(session);
        if (LayKind(chosen) == LayKind::edge) return run_lays_on(session);
        change_lays(session, Facts::tr("Lay"), [&](Lay& lay) {
            if (lay.kind == LayKind::fitted) lay.metres.reset();
            lay.kind = LayKind(chosen);
        });
    });
}

void add_size(Page& page, const QString& name, int axis) {
    Session& session = page.session();
    NumberRow row{name, Facts::tr("m"), 0.25, {}, {}, {}, {}};
    row.value = [&session, axis] {
        const auto looks = picked_looks(session);
        const auto shared =
            shared_by(looks, [&](const Look& look) { return metres_of(session, look)[axis]; });
        return shared.value_or(std::numeric_limits<double>::quiet_NaN());
    };
    row.change = [&session, axis, name](double value) {
        if (!(value >= 0.001))
            return emit session.message(Facts::tr("A repeat is at least a millimetre long"));
        const auto looks = picked_looks(session);
        if (looks.empty()) return;
        const Vec2 before = metres_of(session, looks[0]);
        change_lays(session, name, [&](Lay& lay) {
            Vec2 metres = lay.metres.value_or(before);
            metres[axis] = value;
            lay.metres = metres;
        });
    };
    page.add_number(std::move(row));
}

/// The prints of the faces' material, one of which is chosen.
void add_prints(Page& page, const Material& material) {
    if (material.prints.empty()) return;
    Session& session = page.session();
    auto* print = new QComboBox;
    print->setAccessibleName(Facts::tr("Print"));
    print->addItem(Facts::tr("The whole picture"), QString());
    for (const auto& [name, region] : material.prints)
        print->addItem(QString::fromStdString(name), QString::fromStdString(name));
    page.column().addWidget(print);
    page.on_refresh([&session, print] {
        const QSignalBlocker block(print);
        const auto shared = shared_by(picked_looks(session), [](const Look& look) { return look.lay.print; });
        print->setCurrentIndex(shared ? print->findData(QString::fromStdString(*shared)) : -1);
    });
    QObject::connect(print, &QComboBox::activated, &page, [&session, print] {
        change_lays(session, Facts::tr("Print"),
                    [&](Lay& lay) { lay.print = print->currentData().toString().toStdString(); });
    });
}

/// What the faces' one material is, for all faces that have it.
void add_material(Page& page, const Material& material) {
    Session& session = page.session();
    page.add_heading(Facts::tr("Material %1").arg(QString::fromStdString(material.name)));
    const auto change = [&session, id = material.id](const QString& what, auto edit) {
        const Material* now = find_material(session.project(), id);
        if (!now) return;
        Material next = *now;
        edit(next);
        session.apply(edit::with_material(session.project(), std::move(next)), what);
    };
    const auto number = [&](const QString& name, const QString& unit, double step, double least, double most,
                            auto member) {
        NumberRow row{name, unit, step, {}, {}, {}, {}};
        row.value = [&session, id = material.id, member] {
            const Material* now = find_material(session.project(), id);
            return now ? double(member(*const_cast<Material*>(now))) : 0.0;
        };
        row.change = [change, name, member, least, most](double value) {
            change(name, [&](Material& next) { member(next) = std::clamp(value, least, most); });
        };
        page.add_number(std::move(row));
    };
    constexpr double k_least_m = 0.001, k_most_m = 1000;
    if (material.picture()) {
        number(Facts::tr("Repeats every, across"), Facts::tr("m"), 0.25, k_least_m, k_most_m,
               [](Material& m) -> double& { return m.metres.x; });
        number(Facts::tr("Repeats every, up"), Facts::tr("m"), 0.25, k_least_m, k_most_m,
               [](Material& m) -> double& { return m.metres.y; });
    }
    number(Facts::tr("Roughness"), {}, 0.05, 0, 1, [](Material& m) -> double& { return m.roughness; });
    number(Facts::tr("Metal"), {}, 0.05, 0, 1, [](Material& m) -> double& { return m.metal; });
}

} // namespace

void fill_faces(Page& page) {
    Session& session = page.session();
    const auto& faces = session.selected_items().faces();
    const Item* item = find_item(session.level(), faces.back().item);
    page.add_heading(faces.size() == 1 ? Facts::tr("A face of %1").arg(QString::fromStdString(item->title()))
                                       : Facts::tr("%n face(s)", nullptr, int(faces.size())));
    const auto id = shared_by(picked_looks(session), [](const Look& look) { return look.material; });
    const Material* material = id ? find_material(session.project(), *id) : nullptr;
    page.add_text(!id           ? Facts::tr("Of several materials")
                  : id->empty() ? Facts::tr("Bare: click a material in the tray")
                  : material    ? QString::fromStdString(material->name)
                                : Facts::tr("Its material is not in the project"),
                  "plain");
    if (!material) return;
    if (material->picture()) {
        add_prints(page, *material);
        add_kind(page);
        const auto kind = shared_by(picked_looks(session), [](const Look& look) { return look.lay.kind; });
        if (kind != LayKind::fitted) { // what is fitted is as large as its face
            add_size(page, Facts::tr("One repeat, across"), 0);
            add_size(page, Facts::tr("One repeat, up"), 1);
        }
        add_lay_number(
            page, Facts::tr("Turned"), QStringLiteral("°"), 15,
            [](const Look& look) { return look.lay.turn_deg; },
            [](Lay& lay, double value) { lay.turn_deg = std::remainder(value, 360); });
        add_lay_number(
            page, Facts::tr("Shifted right"), Facts::tr("m"), 0.05,
            [](const Look& look) { return look.lay.shift.x; },
            [](Lay& lay, double value) { lay.shift.x = value; });
        add_lay_number(
            page, Facts::tr("Shifted up"), Facts::tr("m"), 0.05,
            [](const Look& look) { return look.lay.shift.y; },
            [](Lay& lay, double value) { lay.shift.y = value; });
        auto* mirrored = new QCheckBox(Facts::tr("Mirrored"));
        page.column().addWidget(mirrored);
        page.on_refresh([&session, mirrored] {
            const QSignalBlocker block(mirrored);
            mirrored->setChecked(shared_by(picked_looks(session), [](const Look& look) {
                                     return look.lay.mirrored;
                                 }).value_or(false));
        });
        QObject::connect(mirrored, &QCheckBox::clicked, &page, [&session](bool on) {
            change_lays(session, Facts::tr("Mirrored"), [&](Lay& lay) { lay.mirrored = on; });
        });
        page.add_button(Facts::tr("A quarter turn"), [&session] {
            change_lays(session, Facts::tr("A quarter turn"),
                        [](Lay& lay) { lay.turn_deg = std::remainder(lay.turn_deg + 90, 360); });
        });
        page.add_button(Facts::tr("Half a repeat"), [&session] { shift_lays_by_half(session); });
        page.add_button(Facts::tr("Fit onto all as one"), [&session] { fit_lays(session); });
        if (faces.size() > 1)
            page.add_button(Facts::tr("Run on round the corner"), [&session] { run_lays_on(session); });
    }
    add_material(page, *material);
}

} // namespace rubble::app
