#include "window/tray.h"

#include <QColorDialog>
#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QTimer>
#include <QToolButton>

#include "edit/brushes.h"
#include "edit/items.h"
#include "edit/project.h"
#include "io/export_parts.h"
#include "numbers.h"
#include "theme.h"
#include "view/overlay.h"
#include "window/number_field.h"

namespace rubble::app {

namespace {

/// The picture of a tool, drawn from what it makes.
QIcon tool_picture(const QString& name) {
    QPixmap pixmap(80, 64);
    pixmap.setDevicePixelRatio(2);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    painter.setRenderHint(QPainter::Antialiasing);
    if (name.startsWith(QStringLiteral("place "))) {
        draw_element(painter, {20, 28}, name.mid(6).toStdString(), false);
    } else if (name == QStringLiteral("select")) {
        painter.setPen(QPen(color::ink, 1.5));
        painter.setBrush(Qt::white);
        painter.drawPolygon(
            QPolygonF{{14, 5}, {14, 24}, {19, 19.5}, {23, 27}, {26, 25.5}, {22.5, 18.5}, {28, 18}});
    } else {
        Camera camera;
        camera.size = {40, 32};
        camera.heading_deg = 62, camera.tilt_deg = 28, camera.distance_m = 3.3, camera.field_deg = 40;
        camera.target = {0, 0, 0.45};
        Brush brush;
        brush.size = {1.5, 1.1, 0.9};
        if (name == QStringLiteral("ramp")) brush.shape = Shape::ramp;
        const bool cut = name == QStringLiteral("cut");
        painter.setPen(QPen(color::ink, 1.3, cut ? Qt::DashLine : Qt::SolidLine));
        const BrushBody body = body_of(brush);
        for (const auto& face : body.faces) {
            QPolygonF outline;
            Vec3 middle(0);
            for (int i : face.loop) {
                const Vec3 p = geometry::to_metres(body.points[size_t(i)]);
                middle += p / double(face.loop.size());
                if (const auto s = camera.to_screen(p)) outline << *s;
            }
            const Vec3 a = geometry::to_metres(body.points[size_t(face.loop[0])]),
                       b = geometry::to_metres(body.points[size_t(face.loop[1])]),
                       c = geometry::to_metres(body.points[size_t(face.loop[2])]);
            const Vec3 normal = glm::normalize(glm::cross(b - a, c - a));
            if (!cut && glm::dot(normal, middle - camera.eye()) > 0) continue;
            painter.setBrush(cut ? QBrush(Qt::NoBrush)
                                 : QBrush(color::stone.lighter(int(100 + 18 * std::max(normal.z, 0.0)))));
            painter.drawPolygon(outline);
        }
    }
    return QIcon(pixmap);
}

QPixmap sign(const QColor& ink, int corners) {
    QPixmap pixmap(28, 28);
    pixmap.setDevicePixelRatio(2);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(ink);
    if (corners == 3)
        painter.drawPolygon(QPolygonF{{7, 1.5}, {13, 12.5}, {1, 12.5}});
    else if (corners == 4)
        painter.drawPolygon(QPolygonF{{7, 1}, {13, 7}, {7, 13}, {1, 7}});
    else
        painter.drawEllipse(QPointF(7, 7), 5, 5);
    if (corners == 0) {
        painter.setPen(QPen(Qt::white, 1.6));
        painter.drawLine(QPointF(5, 5), QPointF(9, 9));
        painter.drawLine(QPointF(9, 5), QPointF(5, 9));
    }
    return pixmap;
}

/// A row of a list that is as high as its text in the tray's width.
QListWidgetItem* wrapped_row(const QIcon& icon, const QString& text, const QFont& font) {
    auto* row = new QListWidgetItem(icon, text);
    const QRect box = QFontMetrics(font).boundingRect(QRect(0, 0, 118, 1000), Qt::TextWordWrap, text);
    row->setSizeHint({100, box.height() + 10});
    return row;
}

QLabel* faint(const QString& text) {
    auto* label = new QLabel(text);
    label->setProperty("role", "faint");
    label->setWordWrap(true);
    return label;
}

} // namespace

Tray::Tray(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setAccessibleName(tr("Tray"));
    column_ = new QVBoxLayout(this);
    column_->setContentsMargins(0, 0, 0, 0);
    stage_part_ = new QWidget;
    column_->addWidget(stage_part_, 1);
    auto* lower = new QVBoxLayout;
    lower->setContentsMargins(14, 6, 8, 8);
    auto* heading_row = new QHBoxLayout;
    auto* heading = new QLabel(tr("Layers"));
    heading->setProperty("role", "heading");
    auto* add = new QToolButton;
    add->setText(QStringLiteral("+"));
    add->setAutoRaise(true);
    add->setToolTip(tr("Add a layer"));
    add->setAccessibleName(tr("Add a layer"));
    heading_row->addWidget(heading);
    heading_row->addStretch();
    heading_row->addWidget(add);
    lower->addLayout(heading_row);
    layers_ = new QListWidget;
    layers_->setAccessibleName(tr("Layers"));
    layers_->setMaximumHeight(150);
    layers_->setToolTip(tr("New items go to the chosen layer; the tick shows or hides it in the view only"));
    lower->addWidget(layers_);
    column_->addLayout(lower);
    connect(add, &QToolButton::clicked, this, [this] {
        Layer layer;
        layer.id = edit::fresh_layer_id(session_.level());
        layer.name = tr("Layer %1").arg(session_.level().layers.size() + 1).toStdString();
        session_.apply(edit::with_layer(session_.level(), layer), tr("Add layer"));
        session_.set_layer(int(session_.level().layers.size()) - 1);
        fill_layers();
    });
    connect(layers_, &QListWidget::itemChanged, this, [this](QListWidgetItem* row) {
        const size_t index = size_t(layers_->row(row));
        const bool hidden = row->checkState() == Qt::Unchecked;
        // Later: the list is made anew by the change.
        QTimer::singleShot(0, this, [this, index, hidden] {
            if (index >= session_.level().layers.size()) return;
            Layer layer = *session_.level().layers[index];
            layer.hidden = hidden;
            session_.apply(edit::with_layer(session_.level(), layer),
                           hidden ? tr("Hide layer") : tr("Show layer"));
        });
    });
    connect(layers_, &QListWidget::currentRowChanged, this, [this](int row) {
        if (row >= 0) session_.set_layer(row);
    });
    connect(&session_, &Session::stageChanged, this, &Tray::rebuild);
    connect(&session_, &Session::documentOpened, this, &Tray::rebuild);
    connect(&session_, &Session::levelChanged, this, &Tray::refresh);
    connect(&session_, &Session::builtChanged, this, [this] {
        if (session_.stage() == Stage::check && session_.up_to_date()) rebuild();
        if (session_.stage() == Stage::hand_off && session_.up_to_date()) refresh();
    });
    rebuild();
}

void Tray::fill_layers() {
    const QSignalBlocker block(layers_);
    layers_->clear();
    for (const auto& layer : session_.level().layers) {
        auto* row = new QListWidgetItem(
            tr("%1  ·  %2")
                .arg(QString::fromStdString(layer->name.empty() ? layer->id.value : layer->name))
                .arg(layer->items.size()));
        row->setFlags(row->flags() | Qt::ItemIsUserCheckable);
        row->setCheckState(layer->hidden ? Qt::Unchecked : Qt::Checked);
        layers_->addItem(row);
    }
    layers_->setCurrentRow(session_.layer());
}

void Tray::rebuild() {
    delete stage_part_;
    stage_part_ = new QWidget;
    auto* own = new QVBoxLayout(stage_part_);
    own->setContentsMargins(14, 12, 8, 4);
    own->setSpacing(6);
    refreshers_.clear();
    column_->insertWidget(0, stage_part_, 1);
    switch (session_.stage()) {
    case Stage::metrics:
        build_metrics();
        break;
    case Stage::block_out:
        build_tools();
        break;
    case Stage::populate:
        build_elements();
        break;
    case Stage::dress:
        build_materials();
        break;
    case Stage::check:
        build_check();
        break;
    case Stage::hand_off:
        build_hand_off();
        break;
    }
    if (session_.stage() != Stage::check) own->addStretch();
    refresh();
}

void Tray::refresh() {
    for (const auto& refresher : refreshers_) refresher();
    fill_layers();
}

void Tray::add_heading(const QString& text) {
    auto* label = new QLabel(text);
    label->setProperty("role", "heading");
    stage_part_->layout()->addWidget(label);
}

void Tray::add_tool(const QString& name, const QString& label, const QString& key) {
    auto* grid = stage_part_->findChild<QGridLayout*>(QStringLiteral("tools"));
    if (!grid) {
        grid = new QGridLayout;
        grid->setObjectName(QStringLiteral("tools"));
        grid->setSpacing(6);
        static_cast<QVBoxLayout*>(stage_part_->layout())->addLayout(grid);
    }
    auto* button = new QToolButton;
    button->setObjectName(QStringLiteral("tool ") + name);
    button->setIcon(tool_picture(name));
    button->setIconSize({40, 32});
    button->setText(label);
    button->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
    button->setCheckable(true);
    button->setChecked(name == tool_);
    button->setFixedSize(76, 62);
    button->setToolTip(key.isEmpty() ? label : tr("%1 (%2)").arg(label, key));
    button->setAccessibleName(label);
    button->setStyleSheet(
        QStringLiteral("QToolButton { border: 1px solid #CFC6B6; border-radius: 4px; background: #F3EFE7; }"
                       "QToolButton:hover { border-color: #B5532D; }"
                       "QToolButton:checked { border: 2px solid #B5532D; background: #F3E2D8; }"));
    const int count = grid->count();
    grid->addWidget(button, count / 2, count % 2);
    connect(button, &QToolButton::clicked, this, [this, name] { emit toolWanted(name); });
}

void Tray::mark_tool(const QString& name) {
    tool_ = name;
    for (QToolButton* button : stage_part_->findChildren<QToolButton*>())
        if (button->objectName().startsWith(QStringLiteral("tool ")))
            button->setChecked(button->objectName() == QStringLiteral("tool ") + name);
}

void Tray::build_tools() {
    add_heading(tr("Shapes"));
    add_tool(QStringLiteral("select"), tr("Select"), QStringLiteral("Q"));
    add_tool(QStringLiteral("box"), tr("Box"), QStringLiteral("B"));
    add_tool(QStringLiteral("ramp"), tr("Ramp"), QStringLiteral("T"));
    add_tool(QStringLiteral("cut"), tr("Cut"), QStringLiteral("X"));
    stage_part_->layout()->addWidget(faint(tr("Choose a shape, drag its base where it shall stand, lift the "
                                              "height and click. A cut opens a doorway or a pit.")));
}

void Tray::build_elements() {
    add_heading(tr("Elements"));
    add_tool(QStringLiteral("select"), tr("Select"), QStringLiteral("Q"));
    add_tool(QStringLiteral("place start"), tr("Start"), {});
    add_tool(QStringLiteral("place goal"), tr("Goal"), {});
    add_tool(QStringLiteral("place place"), tr("Place"), {});
    add_tool(QStringLiteral("place note"), tr("Note"), {});
    stage_part_->layout()->addWidget(
        faint(tr("A named place is somewhere to make claims about: that one gets there, or must not.")));
}

void Tray::build_metrics() {
    add_heading(tr("Character"));
    auto* list = new QListWidget;
    list->setAccessibleName(tr("Characters"));
    list->setMaximumHeight(110);
    stage_part_->layout()->addWidget(list);
    refreshers_.push_back([this, list] {
        const QSignalBlocker block(list);
        list->clear();
        for (const auto& named : session_.project().characters) {
            list->addItem(QString::fromStdString(named.name));
            if (named.id == session_.level().character) list->setCurrentRow(list->count() - 1);
        }
    });
    connect(list, &QListWidget::currentRowChanged, this, [this](int row) {
        if (row < 0 || size_t(row) >= session_.project().characters.size()) return;
        const CharacterId id = session_.project().characters[size_t(row)].id;
        // Later: the list is made anew by the change and must not be under way in its own signal.
        QTimer::singleShot(0, this, [this, id] {
            Level level = session_.level();
            level.character = id;
            session_.apply(std::move(level), tr("Character"));
        });
    });
    add_heading(tr("Grid"));
    auto* steps = new QComboBox;
    steps->setAccessibleName(tr("Grid step"));
    steps->setEditable(true);
    for (double step : {0.0625, 0.125, 0.25, 0.5, 1.0, 2.0, 4.0, 8.0})
        steps->addItem(plain_number(step) + QStringLiteral(" m"));
    stage_part_->layout()->addWidget(steps);
    refreshers_.push_back(
        [this, steps] { steps->setEditText(plain_number(session_.grid_m()) + QStringLiteral(" m")); });
    auto take = [this, steps] {
        const auto value = parse_metres(steps->currentText());
        if (!value || *value < 1e-4 || *value > 1000 || *value == session_.grid_m()) return;
        Project project = session_.project();
        project.grid_m = *value;
        session_.apply(std::move(project), tr("Grid"));
    };
    connect(steps, &QComboBox::activated, this, take);
    connect(steps->lineEdit(), &QLineEdit::editingFinished, this, take);
    auto number = [this](const QString& name, double step, double Project::*member, double least) {
        auto* row = new QHBoxLayout;
        auto* field = new NumberField(name, step);
        row->addWidget(new QLabel(name));
        row->addStretch();
        row->addWidget(field);
        static_cast<QVBoxLayout*>(stage_part_->layout())->addLayout(row);
        refreshers_.push_back([this, field, member] { field->show_value(session_.project().*member); });
        connect(field, &NumberField::changedTo, this, [this, member, least](double to) {
            if (to < least) return;
            Project project = session_.project();
            project.*member = to;
            session_.apply(std::move(project), tr("Metrics"));
        });
    };
    number(tr("Module, m"), 0.5, &Project::module_m, 1e-3);
    number(tr("Turn step, °"), 5, &Project::turn_step_deg, 0.1);
    number(tr("Easy from, %"), 5, &Project::easy_pct, 0);
    number(tr("Fair from, %"), 5, &Project::fair_pct, 0);
}

void Tray::build_materials() {
    add_heading(tr("Materials"));
    auto* list = new QListWidget;
    list->setAccessibleName(tr("Materials"));
    stage_part_->layout()->addWidget(list);
    refreshers_.push_back([this, list] {
        const QSignalBlocker block(list);
        const int row = list->currentRow();
        list->clear();
        for (const Material& material : session_.project().materials) {
            QPixmap swatch(22, 22);
            swatch.fill(QColor(material.color[0], material.color[1], material.color[2]));
            list->addItem(new QListWidgetItem(QIcon(swatch), tr("%1\nroughness %2")
                                                                 .arg(QString::fromStdString(material.name),
                                                                      plain_number(material.roughness))));
        }
        list->setCurrentRow(row);
    });
    auto chosen = [this, list]() -> const Material* {
        const int row = list->currentRow();
        return row >= 0 && size_t(row) < session_.project().materials.size()
                   ? &session_.project().materials[size_t(row)]
                   : nullptr;
    };
    auto button = [this](const QString& text, auto act) {
        auto* b = new QPushButton(text);
        stage_part_->layout()->addWidget(b);
        connect(b, &QPushButton::clicked, this, act);
        return b;
    };
    // Gives the chosen material to every selected brush by `change(brush, material)`.
    auto give = [this, chosen](auto change) {
        const Material* material = chosen();
        if (!material || session_.selection().empty()) {
            emit session_.message(tr("Choose a material here and click a brush in the view"));
            return;
        }
        Level level = session_.level();
        for (const ItemId& id : session_.selection())
            if (const Item* item = find_item(level, id); item && item->brush()) {
                Item copy = *item;
                copy.body = change(*item->brush(), material->id);
                level = edit::with_changed(level, copy);
            }
        session_.apply(std::move(level), tr("Material"));
    };
    auto* face = button(tr("Give to the clicked face"), [this, give] {
        const auto side = session_.side();
        if (!side) {
            emit session_.message(tr("Click the face of a brush in the view first"));
            return;
        }
        give([side](const Brush& brush, const MaterialId& id) {
            return edit::with_side_material(brush, *side, id);
        });
    });
    connect(&session_, &Session::selectionChanged, face,
            [this, face] { face->setEnabled(session_.side().has_value()); });
    face->setEnabled(session_.side().has_value());
    button(tr("Give to the whole brush"), [give] {
        give([](Brush brush, const MaterialId& id) {
            brush.material = id;
            brush.side_materials.clear();
            return brush;
        });
    });
    button(tr("Add a material…"), [this] {
        const QColor rgb = QColorDialog::getColor(color::stone, this, tr("Colour of the new material"));
        if (!rgb.isValid()) return;
        Material material;
        material.id = edit::fresh_material_id(session_.project());
        material.name = tr("Material %1").arg(session_.project().materials.size() + 1).toStdString();
        material.color = {uint8_t(rgb.red()), uint8_t(rgb.green()), uint8_t(rgb.blue())};
        session_.apply(edit::with_material(session_.project(), material), tr("Add material"));
    });
}

void Tray::build_check() {
    auto* own = static_cast<QVBoxLayout*>(stage_part_->layout());
    const auto& result = session_.built().check;
    add_heading(tr("Claims"));
    auto* claims = new QListWidget;
    claims->setAccessibleName(tr("Claims"));
    claims->setWordWrap(true);
    claims->setTextElideMode(Qt::ElideNone);
    claims->setResizeMode(QListView::Adjust);
    claims->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    own->addWidget(claims, 2);
    if (session_.level().claims.empty())
        own->addWidget(faint(tr("None yet. Select two elements to claim that one reaches the other.")));
    for (const Claim& claim : session_.level().claims) {
        const check::ClaimResult* judged = nullptr;
        if (result)
            for (const auto& one : result->claims)
                if (one.id == claim.id) judged = &one;
        QString text = QString::fromStdString(claim.name.empty() ? claim.id.value : claim.name);
        QColor ink = color::ochre;
        int corners = 4;
        if (judged && judged->state == check::ClaimState::holds) {
            ink = color::sea_green, corners = 1;
            if (judged->time_s > 0) text += tr("\n%1 s").arg(judged->time_s, 0, 'f', 1);
        }
        if (judged && judged->state == check::ClaimState::fails) {
            ink = color::plum, corners = 0;
            const check::NearMiss* miss = nullptr;
            for (const auto& one : result->near_misses)
                if (one.to == claim.to || one.to == claim.from) miss = &one;
            if (miss)
                text += "\n" + (miss->limit == "slope" ? tr("%1° too steep").arg(miss->missing_deg, 0, 'f', 1)
                                                       : tr("%1 missing").arg(metres_text(miss->missing_m)));
        }
        claims->addItem(wrapped_row(QIcon(sign(ink, corners)), text, font()));
    }
    connect(claims, &QListWidget::itemClicked, this, [this, claims](QListWidgetItem*) {
        const int row = claims->currentRow();
        if (row >= 0 && size_t(row) < session_.level().claims.size())
            emit claimChosen(session_.level().claims[size_t(row)].id);
    });
    add_heading(tr("Findings"));
    auto* findings = new QListWidget;
    findings->setAccessibleName(tr("Findings"));
    findings->setWordWrap(true);
    findings->setTextElideMode(Qt::ElideNone);
    findings->setResizeMode(QListView::Adjust);
    findings->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    own->addWidget(findings, 3);
    if (!result) return;
    std::vector<check::Finding> sorted = result->findings;
    std::stable_sort(sorted.begin(), sorted.end(), [](auto& a, auto& b) { return a.severity < b.severity; });
    for (const auto& finding : sorted) {
        const bool blocker = finding.severity == check::Severity::blocker,
                   concern = finding.severity == check::Severity::concern;
        findings->addItem(wrapped_row(QIcon(sign(blocker   ? color::plum
                                                 : concern ? color::ochre
                                                           : color::blue_grey,
                                                 blocker   ? 3
                                                 : concern ? 4
                                                           : 1)),
                                      QString::fromStdString(finding.message), font()));
    }
    connect(findings, &QListWidget::itemClicked, this, [this, findings, sorted](QListWidgetItem*) {
        const int row = findings->currentRow();
        if (row >= 0 && size_t(row) < sorted.size())
            emit findingChosen(sorted[size_t(row)].at, sorted[size_t(row)].items);
    });
}

void Tray::build_hand_off() {
    add_heading(tr("What the file will hold"));
    auto* text = faint({});
    stage_part_->layout()->addWidget(text);
    refreshers_.push_back([this, text] {
        const io::ExportCounts counts = io::count_export(session_.level());
        text->setText(tr("%1 parts by layer and group\n%2 triangles, %3 of collision\n%4 elements with their "
                         "values\n%5 materials\nMetres, y up")
                          .arg(counts.parts)
                          .arg(counts.triangles)
                          .arg(counts.collision_triangles)
                          .arg(counts.elements)
                          .arg(counts.materials));
    });
    auto* facts = faint({});
    stage_part_->layout()->addWidget(facts);
    refreshers_.push_back([this, facts] {
        const auto& result = session_.built().check;
        if (!result) return;
        int holds = 0, blockers = 0;
        for (const auto& claim : result->claims) holds += claim.state == check::ClaimState::holds;
        for (const auto& finding : result->findings) blockers += finding.severity == check::Severity::blocker;
        facts->setText(
            tr("%1 of %2 claims hold\n%3 blockers open").arg(holds).arg(result->claims.size()).arg(blockers));
    });
    auto* button = new QPushButton(tr("Export…"));
    button->setProperty("role", "main");
    stage_part_->layout()->addWidget(button);
    connect(button, &QPushButton::clicked, this, &Tray::exportWanted);
}

} // namespace rubble::app
