#include "window/facts.h"

#include <cmath>

#include <QComboBox>
#include <QLabel>
#include <QPainter>
#include <QPushButton>

#include "check/flight.h"
#include "edit/brushes.h"
#include "edit/items.h"
#include "edit/project.h"
#include "numbers.h"
#include "theme.h"
#include "window/number_field.h"

namespace rubble::app {

Facts::Facts(Session& session, QWidget* parent) : QScrollArea(parent), session_(session) {
    setWidgetResizable(true);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setAccessibleName(tr("Facts"));
    connect(&session_, &Session::selectionChanged, this, [this] { claim_ = {}, rebuild(); });
    connect(&session_, &Session::stageChanged, this, [this] { claim_ = {}, rebuild(); });
    connect(&session_, &Session::documentOpened, this, &Facts::rebuild);
    connect(&session_, &Session::levelChanged, this, &Facts::refresh);
    connect(&session_, &Session::builtChanged, this, [this] {
        // What is said of claims and elements depends on the check.
        const Item* item = session_.selected();
        if (session_.up_to_date() && (!claim_.empty() || (item && item->element())))
            rebuild();
        else
            refresh();
    });
    rebuild();
}

void Facts::show_claim(const ClaimId& id) {
    claim_ = id;
    rebuild();
}

void Facts::rebuild() {
    auto* content = new QWidget;
    column_ = new QVBoxLayout(content);
    column_->setContentsMargins(14, 12, 14, 12);
    column_->setSpacing(6);
    refreshers_.clear();
    const Item* item = session_.selected();
    if (session_.stage() == Stage::metrics)
        build_character();
    else if (!claim_.empty())
        build_claim();
    else if (item && item->brush())
        build_brush(item->id);
    else if (item && item->element())
        build_element(item->id);
    else if (session_.selection().empty())
        build_nothing();
    else
        build_many();
    column_->addStretch();
    setWidget(content);
    refresh();
}

void Facts::refresh() {
    for (const auto& refresher : refreshers_) refresher();
}

void Facts::add_heading(const QString& text) {
    auto* label = new QLabel(text);
    label->setProperty("role", "heading");
    label->setWordWrap(true);
    column_->addWidget(label);
}

QLabel* Facts::add_text(const QString& text, const char* role) {
    auto* label = new QLabel(text);
    label->setProperty("role", role);
    label->setWordWrap(true);
    column_->addWidget(label);
    return label;
}

void Facts::add_number(const QString& name, double step, std::function<double()> value,
                       std::function<void(double)> change, std::function<QString()> meaning) {
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    auto* label = new QLabel(name);
    auto* field = new NumberField(name, step);
    label->setBuddy(field);
    label->setWordWrap(true);
    label->setMinimumWidth(40);
    row->addWidget(label, 1);
    row->addWidget(field);
    column_->addLayout(row);
    connect(field, &NumberField::changedTo, this, [change = std::move(change)](double to) { change(to); });
    refreshers_.push_back([field, value] { field->show_value(value()); });
    if (!meaning) return;
    QLabel* said = add_text({}, "meaning");
    refreshers_.push_back([said, meaning] {
        said->setText(meaning());
        said->setVisible(!said->text().isEmpty());
    });
}

QString Facts::height_meaning(const Brush& brush) const {
    const Character c = session_.character();
    const QString who = session_.character_name();
    const double height = brush.size.z;
    if (brush.effect == Effect::cut) {
        if (height >= c.height_m)
            return tr("%1 high: %2 walks through upright (%3 to spare)")
                .arg(metres_text(height), who, metres_text(height - c.height_m));
        if (c.crouched_height_m > 0 && height >= c.crouched_height_m)
            return tr("%1 high: %2 has to crouch").arg(metres_text(height), who);
        return tr("%1 high: too low for %2").arg(metres_text(height), who);
    }
    if (brush.shape == rubble::Shape::ramp) {
        const double deg = degrees(std::atan2(brush.size.z, brush.size.x));
        const QString angle = QString::number(deg, 'f', 1) + "°";
        return deg <= c.max_slope_deg + 0.1
                   ? tr("Rises %1: %2 walks it").arg(angle, who)
                   : tr("Rises %1: too steep for %2 (%3°)").arg(angle, who).arg(c.max_slope_deg, 0, 'f', 0);
    }
    if (height <= c.step_height_m + 1e-3)
        return tr("%1 high: %2 steps onto it").arg(metres_text(height), who);
    const double apex = check::highest_rise(c);
    if (height <= apex)
        return tr("%1 high: too high to step (%2), a jump leaves %3")
            .arg(metres_text(height), metres_text(c.step_height_m), metres_text(apex - height));
    return tr("%1 high: %2 too high to jump onto").arg(metres_text(height), metres_text(height - apex));
}

void Facts::build_brush(const ItemId& id) {
    auto brush = [this, id]() -> Brush {
        const Item* item = find_item(session_.level(), id);
        return item && item->brush() ? *item->brush() : Brush{};
    };
    auto change = [this, id](const QString& what, auto edit) {
        const Item* item = find_item(session_.stored_level(), id);
        if (!item || !item->brush()) return;
        Item copy = *item;
        edit(std::get<Brush>(copy.body));
        if (const std::string problem = problem_of(std::get<Brush>(copy.body)); !problem.empty()) {
            emit session_.message(tr("That does not fit: a size must lie between 0.00001 and 1000 m"));
            refresh();
            return;
        }
        session_.apply(edit::with_changed(session_.stored_level(), copy), what);
    };
    const Brush now = brush();
    add_heading(QString::fromStdString(find_item(session_.level(), id)->title()));
    add_text(now.effect == Effect::cut          ? tr("Cut: takes matter from every fill before it")
             : now.shape == rubble::Shape::ramp ? tr("Ramp, rises along its own x")
                                                : tr("Box"));
    const double grid = session_.grid_m();
    const QStringList axes{tr("x"), tr("y"), tr("z")};
    const QStringList sizes{tr("Length"), tr("Width"), tr("Height")};
    for (int axis = 0; axis < 3; ++axis)
        add_number(
            sizes[axis], grid, [=] { return brush().size[axis]; },
            [=](double to) {
                change(tr("Size"), [&](Brush& b) { b = to > 0 ? edit::with_size(b, axis, to) : b; });
            },
            axis == 2 ? std::function<QString()>([=, this] { return height_meaning(brush()); })
                      : std::function<QString()>{});
    for (int axis = 0; axis < 3; ++axis)
        add_number(
            tr("Middle of base, %1").arg(axes[axis]), grid, [=] { return brush().place.at[axis]; },
            [=](double to) { change(tr("Move"), [&](Brush& b) { b.place.at[axis] = to; }); });
    add_number(
        tr("Turned, °"), session_.project().turn_step_deg, [=] { return brush().place.turn_deg; },
        [=](double to) {
            change(tr("Turn"), [&](Brush& b) { b.place.turn_deg = to, b.place.rotation.reset(); });
        });

    auto* row = new QHBoxLayout;
    auto* shape = new QComboBox;
    shape->setAccessibleName(tr("Shape"));
    shape->addItems({tr("Box"), tr("Ramp")});
    auto* effect = new QComboBox;
    effect->setAccessibleName(tr("Effect"));
    effect->addItems({tr("Fill"), tr("Cut")});
    row->addWidget(shape);
    row->addWidget(effect);
    column_->addLayout(row);
    refreshers_.push_back([=] {
        shape->setCurrentIndex(brush().shape == rubble::Shape::ramp ? 1 : 0);
        effect->setCurrentIndex(brush().effect == Effect::cut ? 1 : 0);
    });
    connect(shape, &QComboBox::activated, this, [=](int i) {
        change(tr("Shape"), [&](Brush& b) { b.shape = i == 1 ? rubble::Shape::ramp : rubble::Shape::box; });
    });
    connect(effect, &QComboBox::activated, this, [=](int i) {
        change(tr("Effect"), [&](Brush& b) { b.effect = i == 1 ? Effect::cut : Effect::fill; });
    });
}

void Facts::build_element(const ItemId& id) {
    auto element = [this, id]() -> Element {
        const Item* item = find_item(session_.level(), id);
        return item && item->element() ? *item->element() : Element{};
    };
    auto change = [this, id](const QString& what, auto edit) {
        const Item* item = find_item(session_.stored_level(), id);
        if (!item || !item->element()) return;
        Item copy = *item;
        edit(std::get<Element>(copy.body));
        session_.apply(edit::with_changed(session_.stored_level(), copy), what);
    };
    add_heading(QString::fromStdString(find_item(session_.level(), id)->title()));
    const auto& result = session_.built().check;
    const check::Place* place = nullptr;
    if (result)
        for (const auto& one : result->places)
            if (one.item == id) place = &one;
    if (place && element().kind != "start") {
        const QString who = session_.character_name();
        switch (place->reached) {
        case check::Reached::yes:
            add_text(tr("%1 gets there in %2 s").arg(who).arg(place->time_s, 0, 'f', 1));
            break;
        case check::Reached::with_help:
            add_text(tr("%1 gets there only with a late jump").arg(who));
            break;
        case check::Reached::no:
            add_text(tr("%1 does not get there from the start").arg(who));
            break;
        case check::Reached::undecided:
            add_text(tr("Whether %1 gets there could not be decided").arg(who));
            break;
        }
        if (place->witness) {
            auto* watch = new QPushButton(tr("Watch the run"));
            column_->addWidget(watch);
            const check::Witness witness = *place->witness;
            connect(watch, &QPushButton::clicked, this, [=, this] {
                emit watchWanted(witness, QString::fromStdString(find_item(session_.level(), id)->title()));
            });
        }
        for (const auto& miss : result->near_misses)
            if (miss.to == id) add_near_miss(miss);
    }
    const QStringList axes{tr("x"), tr("y"), tr("z")};
    for (int axis = 0; axis < 3; ++axis)
        add_number(
            axes[axis], session_.grid_m(), [=] { return element().at[axis]; },
            [=](double to) { change(tr("Move"), [&](Element& e) { e.at[axis] = to; }); });
    add_number(
        tr("Facing, °"), 15, [=] { return element().facing_deg; },
        [=](double to) { change(tr("Turn"), [&](Element& e) { e.facing_deg = to; }); });
}

void Facts::build_many() {
    add_heading(tr("%n items", nullptr, int(session_.selection().size())));
    Box3 box;
    for (const ItemId& id : session_.selection())
        if (const Item* item = find_item(session_.level(), id)) box.add(box_of(*item));
    const Vec3 size = box.high - box.low;
    add_text(tr("Together %1 × %2 × %3").arg(metres_text(size.x), metres_text(size.y), metres_text(size.z)));
    if (session_.selection().size() != 2) return;
    const Item *a = find_item(session_.level(), session_.selection()[0]),
               *b = find_item(session_.level(), session_.selection()[1]);
    if (!a || !b || !a->element() || !b->element()) return;
    add_text(tr("A claim is an expectation that is checked after every change."));
    for (const auto kind : {Claim::Kind::reaches, Claim::Kind::not_reaches, Claim::Kind::returns}) {
        const QString from = QString::fromStdString(a->title()), to = QString::fromStdString(b->title());
        const QString text = kind == Claim::Kind::reaches ? tr("Claim: %1 reaches %2").arg(from, to)
                             : kind == Claim::Kind::not_reaches
                                 ? tr("Claim: %1 does not reach %2").arg(from, to)
                                 : tr("Claim: from %1 to %2 and back").arg(from, to);
        auto* button = new QPushButton(text);
        button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        button->setToolTip(text);
        column_->addWidget(button);
        const Claim claim{edit::fresh_claim_id(session_.level()),
                          text.mid(tr("Claim: ").size()).toStdString(),
                          kind,
                          a->id,
                          b->id,
                          {}};
        connect(button, &QPushButton::clicked, this,
                [=, this] { session_.apply(edit::with_claim(session_.level(), claim), tr("Claim")); });
    }
}

void Facts::build_nothing() {
    add_heading(QString::fromStdString(session_.level().name));
    QLabel* text = add_text({});
    refreshers_.push_back([this, text] {
        int brushes = 0, elements = 0;
        for_each_item(session_.level(), [&](const Item& item, const Layer&) {
            brushes += item.brush() != nullptr, elements += item.element() != nullptr;
        });
        const Box3 box = box_of(session_.level());
        const Vec3 size = box.empty() ? Vec3(0) : box.high - box.low;
        text->setText(tr("%1, %2\n%3 × %4 × %5")
                          .arg(counted(brushes, tr("brush"), tr("brushes")),
                               counted(elements, tr("element"), tr("elements")))
                          .arg(metres_text(size.x), metres_text(size.y), metres_text(size.z)));
    });
    const Character c = session_.character();
    add_heading(tr("%1's numbers").arg(session_.character_name()));
    add_text(tr("Steps %1 · slopes %2°\nJumps %3 high, %4 far\nSurvives a fall of %5")
                 .arg(metres_text(c.step_height_m))
                 .arg(c.max_slope_deg, 0, 'f', 0)
                 .arg(metres_text(check::highest_rise(c)), metres_text(check::longest_gap(c, 0).value_or(0)),
                      metres_text(c.survived_fall_m)));
    column_->addWidget(new JumpEnvelope(session_));
    if (session_.stage() == Stage::check)
        add_text(tr("To make a claim select two elements: the first with a click, the second with Shift and "
                    "a click."));
}

void Facts::build_character() {
    add_heading(session_.character_name());
    column_->addWidget(new JumpEnvelope(session_));
    for (const CharacterField& field : character_fields()) {
        const QString name = tr(field.label) +
                             (*field.unit ? QStringLiteral(", ") + QString::fromUtf8(field.unit) : QString());
        add_number(
            name, 0.05, [this, &field] { return session_.character().*field.member; },
            [this, &field](double to) {
                const NamedCharacter* named = find_character(session_.project(), session_.level().character);
                NamedCharacter copy =
                    named ? *named
                          : NamedCharacter{
                                session_.level().character, session_.level().character.value, {}, {}};
                copy.metrics.*field.member = to;
                if (const std::string problem = problem_of(copy.metrics); !problem.empty()) {
                    const CharacterField* at_fault = find_character_field(problem);
                    emit session_.message(tr("%1 must lie between %2 and %3 and fit the other numbers")
                                              .arg(tr(at_fault->label))
                                              .arg(at_fault->least)
                                              .arg(at_fault->most));
                    refresh();
                    return;
                }
                session_.apply(edit::with_character(session_.project(), copy), tr("Metrics"));
            });
    }
}

void Facts::add_near_miss(const check::NearMiss& miss) {
    QString text = QString::fromStdString(miss.text);
    if (const auto end = text.indexOf(QStringLiteral(". ")); end > 0) text = text.left(end + 1);
    QLabel* said = add_text(text, "plain");
    said->setStyleSheet(QStringLiteral("color: %1").arg(color::plum.name()));
    if (miss.mends.empty()) return;
    add_heading(tr("Mends, each tried"));
    for (const check::Mend& mend : miss.mends) {
        auto* row = new QHBoxLayout;
        auto* text_label = new QLabel(QString::fromStdString(mend.text));
        text_label->setWordWrap(true);
        auto* button = new QPushButton(tr("Try"));
        button->setAccessibleName(tr("Try: %1").arg(text_label->text()));
        button->setToolTip(tr("Make this change; undo takes it back"));
        row->addWidget(text_label, 1);
        row->addWidget(button);
        column_->addLayout(row);
        connect(button, &QPushButton::clicked, this,
                [this, mend] { session_.apply(check::mended(session_.stored_level(), mend), tr("Mend")); });
    }
}

void Facts::build_claim() {
    const Claim* claim = nullptr;
    for (const Claim& one : session_.level().claims)
        if (one.id == claim_) claim = &one;
    if (!claim) return build_nothing();
    add_heading(QString::fromStdString(claim->name.empty() ? claim->id.value : claim->name));
    const auto& result = session_.built().check;
    if (!result) return;
    for (const auto& judged : result->claims) {
        if (judged.id != claim_) continue;
        add_text(judged.state == check::ClaimState::holds   ? tr("Holds")
                 : judged.state == check::ClaimState::fails ? tr("Fails")
                                                            : tr("Undecided"));
        if (!judged.reason.empty()) {
            QString reason = QString::fromStdString(judged.reason);
            if (const auto end = reason.indexOf(QStringLiteral(". ")); end > 0) reason = reason.left(end + 1);
            add_text(reason, "plain");
        }
        if (judged.witness) {
            auto* watch = new QPushButton(tr("Watch the run"));
            column_->addWidget(watch);
            const check::Witness witness = *judged.witness;
            const QString title = QString::fromStdString(claim->name);
            connect(watch, &QPushButton::clicked, this, [=, this] { emit watchWanted(witness, title); });
        }
    }
    for (const auto& miss : result->near_misses)
        if ((miss.from == claim->from && miss.to == claim->to) ||
            (miss.from == claim->to && miss.to == claim->from))
            add_near_miss(miss);
    auto* remove = new QPushButton(tr("Remove the claim"));
    column_->addWidget(remove);
    const ClaimId id = claim_;
    connect(remove, &QPushButton::clicked, this,
            [this, id] { session_.apply(edit::without_claim(session_.level(), id), tr("Remove claim")); });
}

JumpEnvelope::JumpEnvelope(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setMinimumHeight(150);
    setAccessibleName(Facts::tr("Jump: height against distance"));
    connect(&session_, &Session::levelChanged, this, qOverload<>(&QWidget::update));
}

void JumpEnvelope::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Character c = session_.character();
    painter.setPen(QPen(color::line));
    painter.setBrush(color::paper);
    painter.drawRoundedRect(rect().adjusted(0, 0, -1, -1), 4, 4);
    const double apex = check::highest_rise(c), deepest = std::min(2.0, c.survived_fall_m);
    const double widest = check::longest_gap(c, -deepest).value_or(1);
    const QRectF area(14, 24, width() - 28, height() - 44);
    const double scale =
        std::min(area.width() / (widest + 0.6), area.height() / (std::max(apex, c.height_m) + deepest));
    const double ground = area.top() + std::max(apex, c.height_m) * scale;
    auto at = [&](double x, double z) {
        return QPointF(area.left() + (x + 0.6) * scale, ground - z * scale);
    };
    painter.setPen(color::faint_ink);
    painter.drawText(QRectF(10, 4, width() - 20, 18), Qt::AlignLeft, Facts::tr("Widest gap for each rise"));
    painter.setPen(QPen(color::line, 1));
    for (int m = 0; m <= int(widest); ++m) painter.drawLine(at(m, -deepest), at(m, std::max(apex, 0.5)));
    painter.setPen(QPen(color::faint_ink, 1.4));
    painter.drawLine(at(-0.6, 0), at(0, 0));
    painter.drawLine(at(0, 0), at(0, -deepest));
    QPolygonF line;
    for (double rise = apex; rise >= -deepest; rise -= 0.02)
        if (const auto gap = check::longest_gap(c, rise)) line << at(*gap, rise);
    painter.setPen(QPen(color::sea_green, 2.2));
    painter.setBrush(Qt::NoBrush);
    painter.drawPolyline(line);
    painter.setPen(QPen(color::ink, 1.4));
    painter.setBrush(Qt::white);
    const double head = 0.3 * scale;
    painter.drawRoundedRect(QRectF(at(-0.42, c.height_m - 0.32), at(-0.05, 0)), 3, 3);
    painter.drawEllipse(at(-0.235, c.height_m - 0.16), head / 2, head / 2);
    painter.setPen(color::ink);
    const double flat_gap = check::longest_gap(c, 0).value_or(0);
    painter.setBrush(color::sea_green);
    painter.drawEllipse(at(flat_gap, 0), 3, 3);
    painter.drawText(QRectF(at(flat_gap, 0) + QPointF(-74, -18), QSizeF(70, 16)), Qt::AlignRight,
                     metres_text(flat_gap));
    painter.drawText(QRectF(at(0.1, apex) + QPointF(0, -2), QSizeF(80, 16)), Qt::AlignLeft,
                     Facts::tr("%1 up").arg(metres_text(apex)));
}

} // namespace rubble::app
