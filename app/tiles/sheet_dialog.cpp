#include "tiles/sheet_dialog.h"

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QGroupBox>
#include <QHBoxLayout>
#include <QPushButton>
#include <QRadioButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include "edit/edging.h"
#include "edit/grey_sheet.h"
#include "edit/sheet_collision.h"
#include "edit/sheet_cut.h"
#include "edit/sheet_pictures.h"
#include "numbers.h"
#include "tiles/tile_size.h"

namespace rubble::app {

namespace {

/// The choices of what a tile does, in the order of their buttons.
enum Kind { nothing, whole, outlined, one_way, deadly };

Kind kind_of(const SheetTile& tile) {
    if (tile.acts == TileActs::deadly) return deadly;
    switch (tile.collision) {
    case TileCollision::full:
        return whole;
    case TileCollision::outline:
        return outlined;
    case TileCollision::one_way:
        return one_way;
    case TileCollision::none:
        break;
    }
    return nothing;
}

} // namespace

SheetDialog::SheetDialog(const Session& session, TileSheet sheet, bool is_new, QWidget* parent)
    : QDialog(parent),
      session_(session),
      sheet_(std::make_shared<const TileSheet>(std::move(sheet))),
      begun_(sheet_),
      guesses_(is_new) {
    setWindowTitle(tr("Sheet of tiles"));
    auto* column = new QVBoxLayout(this);
    auto* row = new QHBoxLayout;
    column->addLayout(row, 1);
    view_ = new SheetView;
    view_->set_collision_shown(true);
    auto* scroll = new QScrollArea;
    scroll->setWidget(view_);
    scroll->setWidgetResizable(true);
    scroll->setMinimumWidth(fontMetrics().averageCharWidth() * 56);
    auto* left = new QVBoxLayout;
    left->addWidget(scroll, 1);
    left->addWidget(build_cut());
    row->addLayout(left, 1);
    auto* side = new QVBoxLayout;
    tabs_ = new QTabWidget;
    tabs_->addTab(build_collision(), tr("Collision"));
    tabs_->addTab(build_edging(), tr("Edging"));
    side->addWidget(tabs_, 1);
    connect(tabs_, &QTabWidget::currentChanged, this, &SheetDialog::show_edging);
    row->addLayout(side);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    buttons->button(QDialogButtonBox::Ok)->setText(is_new ? tr("Bring it in") : tr("Keep"));
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(view_, &SheetView::chosenChanged, this, &SheetDialog::show_chosen);
    connect(view_, &SheetView::chosenChanged, this, &SheetDialog::give_to_case);
    if (is_new) guess_all();
    view_->set_sheet(sheet_);
    show_numbers_of_cut();
    show_cut();
    show_chosen();
    resize(1120, 700);
}

QSpinBox* SheetDialog::add_number(QFormLayout* form, const QString& name, int least, int value) {
    auto* box = new QSpinBox;
    box->setRange(least, 65536);
    box->setSuffix(tr(" px"));
    box->setValue(value);
    box->setAccessibleName(name);
    form->addRow(name, box);
    connect(box, &QSpinBox::valueChanged, this, &SheetDialog::take_cut);
    return box;
}

QWidget* SheetDialog::build_cut() {
    auto* group = new QGroupBox(tr("Cut"));
    auto* row = new QHBoxLayout(group);
    auto* form = new QFormLayout;
    cut_form_ = form;
    row->addLayout(form, 1);
    drawn_size_ = new TileSize;
    row->addWidget(drawn_size_);
    ways_ = new QComboBox;
    ways_->setAccessibleName(tr("How the picture is cut"));
    ways_->addItems({tr("Into equal cells"), tr("At its empty borders")});
    ways_->setCurrentIndex(edit::is_of_unequal_pictures(*sheet_) ? 1 : 0);
    form->addRow(ways_);
    connect(ways_, &QComboBox::activated, this, &SheetDialog::take_cut);
    const SheetCut& cut = sheet_->cut;
    cell_w_ = add_number(form, tr("Cell width"), 1, cut.cell_px[0]);
    cell_h_ = add_number(form, tr("Cell height"), 1, cut.cell_px[1]);
    margin_ = add_number(form, tr("Margin"), 0, cut.margin_px);
    spacing_ = add_number(form, tr("Spacing"), 0, cut.spacing_px);
    gap_ = add_number(form, tr("Least border"), 1, 1);
    gap_->setToolTip(tr("Parts that are nearer to one another are one picture"));
    counts_ = new QLabel;
    size_ = new QLabel;
    for (QLabel* label : {counts_, size_}) {
        label->setWordWrap(true);
        form->addRow(label);
    }
    return group;
}

QWidget* SheetDialog::build_collision() {
    auto* group = new QWidget;
    auto* column = new QVBoxLayout(group);
    chosen_text_ = new QLabel;
    chosen_text_->setWordWrap(true);
    column->addWidget(chosen_text_);
    name_ = new QLineEdit;
    name_->setAccessibleName(tr("Name of the tile"));
    name_->setPlaceholderText(tr("Name of the tile"));
    column->addWidget(name_);
    connect(name_, &QLineEdit::textEdited, this, [this](const QString& name) {
        const std::vector<int> tiles = view_->chosen_tiles();
        if (tiles.size() != 1) return;
        TileSheet sheet = *sheet_;
        sheet.tiles[tiles[0]].name = name.toStdString();
        change(std::move(sheet));
    });
    kinds_ = new QButtonGroup(this);
    const QString names[] = {tr("&Nothing"), tr("&Whole cell"), tr("&Outline"), tr("One-way, from &above"),
                             tr("&Deadly")};
    auto* rows = new QGridLayout;
    for (int i = 0; i < 5; ++i) {
        auto* button = new QRadioButton(names[i]);
        kinds_->addButton(button, i);
        rows->addWidget(button, i / 2, i % 2);
    }
    column->addLayout(rows);
    connect(kinds_, &QButtonGroup::idClicked, this, &SheetDialog::set_collision);
    outline_ = new OutlineView;
    column->addWidget(outline_, 1);
    connect(outline_, &OutlineView::outlineChanged, this, &SheetDialog::take_outline);
    connect(outline_, &OutlineView::cornerChosen, this, &SheetDialog::show_corner);
    connect(outline_, &OutlineView::outlineChanged, this, &SheetDialog::show_corner);
    auto* corner = new QHBoxLayout;
    for (QDoubleSpinBox** box : {&corner_x_, &corner_y_}) {
        *box = new QDoubleSpinBox;
        (*box)->setDecimals(2);
        (*box)->setSuffix(tr(" px"));
        (*box)->setKeyboardTracking(false);
        (*box)->setPrefix(box == &corner_x_ ? tr("x ") : tr("y "));
        (*box)->setAccessibleName(box == &corner_x_ ? tr("Corner, from the left") : tr("Corner, from below"));
        (*box)->setButtonSymbols(QAbstractSpinBox::NoButtons);
        corner->addWidget(*box);
        connect(*box, &QDoubleSpinBox::valueChanged, this, &SheetDialog::take_corner);
    }
    column->addLayout(corner);
    auto* finely = new QHBoxLayout;
    parts_ = new QComboBox;
    parts_->setAccessibleName(tr("Corners catch"));
    parts_->addItem(tr("Whole pixels"), 1);
    parts_->addItem(tr("Half pixels"), 2);
    parts_->addItem(tr("Quarter pixels"), 4);
    parts_->addItem(tr("Free"), 0);
    parts_->addItem(tr("Quarter cells"), -4);
    parts_->addItem(tr("Half cells"), -2);
    connect(parts_, &QComboBox::activated, this,
            [this](int i) { outline_->set_parts(parts_->itemData(i).toInt()); });
    finely->addWidget(parts_);
    const auto add = [&](const QString& text, const QString& tip, auto act) {
        auto* button = new QPushButton(text);
        button->setToolTip(tip);
        button->setAutoDefault(false);
        finely->addWidget(button);
        connect(button, &QPushButton::clicked, this, act);
        return button;
    };
    add(tr("&Mirror"), tr("Mirror the outline left to right"),
        [this] { shape_outline([](auto outline) { return edit::mirrored(std::move(outline)); }); });
    add(tr("&Turn"), tr("Turn the outline a quarter"),
        [this] { shape_outline([](auto outline) { return edit::turned(std::move(outline), 1); }); });
    column->addLayout(finely);
    finely = new QHBoxLayout;
    add(tr("Cop&y"), tr("Keep this outline, to give it to other tiles"), [this] {
        copied_ = outline_->outline();
        paste_->setEnabled(copied_.size() >= 3);
    });
    paste_ = add(tr("Gi&ve it"), tr("Give the outline that was copied to all chosen tiles"),
                 [this] { change(edit::with_outline(*sheet_, view_->chosen_tiles(), copied_)); });
    paste_->setEnabled(false);
    ramp_ = add(tr("Stairs as a &ramp"), tr("Steps in the outline become one slope that is walked smoothly"),
                [this] {
                    if (const auto ramp = edit::ramps_for_stairs(outline_->outline()))
                        outline_->set_outline(*ramp);
                });
    column->addLayout(finely);
    auto* grey = new QPushButton(tr("Gr&ey piece of this outline"));
    grey->setToolTip(tr("Draws a grey tile of the outline into the first free cell of the picture"));
    grey->setAutoDefault(false);
    column->addWidget(grey);
    connect(grey, &QPushButton::clicked, this, &SheetDialog::add_grey_piece);
    auto* proposals = new QHBoxLayout;
    tolerance_ = new QSpinBox;
    tolerance_->setRange(0, 32);
    tolerance_->setValue(2);
    tolerance_->setSuffix(tr(" px"));
    tolerance_->setAccessibleName(tr("How far the outline may stray from the picture"));
    tolerance_->setToolTip(tr("How far the outline may stray from the picture"));
    auto* propose = new QPushButton(tr("Outline from the &picture"));
    auto* guess = new QPushButton(tr("&Guess all tiles"));
    for (QPushButton* button : {propose, guess}) button->setAutoDefault(false);
    proposals->addWidget(propose);
    proposals->addWidget(tolerance_);
    proposals->addWidget(guess);
    column->addLayout(proposals);
    connect(propose, &QPushButton::clicked, this, [this] {
        TileSheet sheet = *sheet_;
        for (const int number : view_->chosen_tiles())
            if (const auto outline = edit::outline_from_picture(*sheet_, number, tolerance_->value());
                !outline.empty())
                sheet = edit::with_outline(std::move(sheet), std::array{number}, outline);
        change(std::move(sheet));
    });
    connect(guess, &QPushButton::clicked, this, &SheetDialog::guess_all);
    return group;
}

/// Which tiles are a ground's edges and corners: a case is marked, then its tile is clicked on the sheet.
QWidget* SheetDialog::build_edging() {
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    auto* row = new QHBoxLayout;
    grounds_ = new QComboBox;
    grounds_->setAccessibleName(tr("Ground"));
    grounds_->setEditable(true);
    grounds_->setInsertPolicy(QComboBox::NoInsert);
    grounds_->setToolTip(tr("The name of the ground can be typed over"));
    connect(grounds_->lineEdit(), &QLineEdit::editingFinished, this,
            [this] { rename_ground(grounds_->currentText()); });
    auto* add = new QPushButton(tr("&Add a ground"));
    add->setAutoDefault(false);
    corners_ = new QCheckBox(tr("With inner &corners (47 cases)"));
    corners_->setChecked(true);
    row->addWidget(grounds_, 1);
    row->addWidget(add);
    column->addLayout(row);
    column->addWidget(corners_);
    edging_ = new EdgingView;
    column->addWidget(edging_, 1);
    missing_ = new QLabel;
    missing_->setWordWrap(true);
    column->addWidget(missing_);
    connect(add, &QPushButton::clicked, this, &SheetDialog::add_ground);
    connect(grounds_, &QComboBox::activated, this, &SheetDialog::show_edging);
    connect(corners_, &QCheckBox::clicked, this, &SheetDialog::show_edging);
    return page;
}

void SheetDialog::add_ground() {
    TileSheet sheet = *sheet_;
    sheet.edgings.push_back({tr("Ground %1").arg(sheet.edgings.size() + 1).toStdString(), {}});
    change(std::move(sheet));
    grounds_->setCurrentIndex(grounds_->count() - 1);
    show_edging();
}

void SheetDialog::rename_ground(const QString& name) {
    const int ground = grounds_->currentIndex();
    if (ground < 0 || name.trimmed().isEmpty() ||
        sheet_->edgings[size_t(ground)].name == name.trimmed().toStdString())
        return;
    TileSheet sheet = *sheet_;
    sheet.edgings[size_t(ground)].name = name.trimmed().toStdString();
    change(std::move(sheet));
}

void SheetDialog::show_edging() {
    const QSignalBlocker block(grounds_);
    const int chosen = grounds_->currentIndex();
    grounds_->clear();
    for (const Edging& edging : sheet_->edgings) grounds_->addItem(QString::fromStdString(edging.name));
    const int index = std::clamp(chosen, -1, grounds_->count() - 1);
    grounds_->setCurrentIndex(index < 0 && grounds_->count() > 0 ? 0 : index);
    edging_->show_edging(sheet_, grounds_->currentIndex(), corners_->isChecked());
    if (grounds_->currentIndex() < 0) {
        missing_->setText(tr("Add a ground, then mark which tile it has for each case"));
        return;
    }
    const Edging& edging = sheet_->edgings[size_t(grounds_->currentIndex())];
    const auto cases = edit::edging_cases(corners_->isChecked());
    const size_t missing = size_t(std::count_if(
        cases.begin(), cases.end(), [&](const GroundAround& one) { return !edging.tiles.contains(one); }));
    missing_->setText(missing == 0
                          ? tr("All %1 cases have a tile").arg(cases.size())
                          : tr("Click the tile for the marked case on the sheet. %1 of %2 cases have none "
                               "yet: the nearest tile stands in for them")
                                .arg(missing)
                                .arg(cases.size()));
}

void SheetDialog::give_to_case() {
    const std::vector<int> tiles = view_->chosen_tiles();
    const int ground = grounds_->currentIndex();
    if (showing_ || !tabs_ || tabs_->currentIndex() != 1 || ground < 0 || tiles.size() != 1) return;
    TileSheet sheet = *sheet_;
    sheet.edgings[size_t(ground)].tiles[edging_->chosen()] = tiles[0];
    change(std::move(sheet));
    edging_->choose_next();
}

void SheetDialog::change(TileSheet sheet) {
    sheet_ = std::make_shared<const TileSheet>(std::move(sheet));
    if (view_) view_->set_sheet(sheet_);
    if (outline_) show_chosen();
    if (edging_) show_edging();
}

void SheetDialog::add_grey_piece() {
    const TileSheet with =
        edit::with_grey_piece(*sheet_, outline_->outline(), tr("Grey piece").toStdString());
    if (with.tiles.size() == sheet_->tiles.size()) {
        chosen_text_->setText(tr("Draw an outline first; and the picture needs a free cell"));
        return;
    }
    const SheetTile made = with.tiles.rbegin()->second;
    change(with);
    view_->choose({{made.at[0], made.at[1]}});
}

/// Those that say nothing of the way in which it is cut are not asked for.
void SheetDialog::show_numbers_of_cut() {
    const bool pictures = ways_->currentIndex() == 1;
    for (QSpinBox* box : {cell_w_, cell_h_, margin_, spacing_}) cut_form_->setRowVisible(box, !pictures);
    cut_form_->setRowVisible(gap_, pictures);
}

/// The picture's parts as they lie, with the numbers that they had.
void SheetDialog::cut_pictures() {
    if (!begun_->picture) return;
    TileSheet sheet = *begun_;
    if (guesses_ || !edit::is_of_unequal_pictures(sheet)) {
        sheet.tiles = edit::pictures_on(*begun_->picture, gap_->value());
        change(std::move(sheet));
    } else {
        change(edit::pictures_again(sheet, begun_->picture, gap_->value()).sheet);
    }
    if (guesses_) guess_all();
}

void SheetDialog::take_cut() {
    const bool pictures = ways_->currentIndex() == 1;
    show_numbers_of_cut();
    if (pictures) {
        cut_pictures();
        view_->choose({});
        return show_cut();
    }
    const SheetCut cut{{cell_w_->value(), cell_h_->value()}, margin_->value(), spacing_->value()};
    change(edit::recut(*begun_, begun_->picture, cut).sheet);
    if (guesses_) {
        // Tiles of a cut that nobody kept are no tiles: numbers begin anew.
        TileSheet fresh = *begun_;
        fresh.cut = cut;
        if (fresh.picture) fresh.tiles = edit::tiles_of_cut(*fresh.picture, cut);
        change(std::move(fresh));
        guess_all();
    }
    view_->choose({});
    show_cut();
}

void SheetDialog::guess_all() {
    TileSheet sheet = *sheet_;
    for (auto& [number, tile] : sheet.tiles)
        tile = edit::guessed(*sheet_, number, tolerance_ ? tolerance_->value() : 2);
    change(std::move(sheet));
}

void SheetDialog::show_cut() {
    if (!sheet_->picture) {
        counts_->setText(tr("The picture %1 could not be read").arg(QString::fromStdString(sheet_->image)));
        return;
    }
    if (edit::is_of_unequal_pictures(*sheet_)) {
        counts_->setText(tr("%1 × %2 pixels: %3 pictures")
                             .arg(sheet_->picture->width)
                             .arg(sheet_->picture->height)
                             .arg(sheet_->tiles.size()));
        size_->setText(tr("Each is placed freely, as large as its pixels say"));
        drawn_size_->hide();
        return;
    }
    drawn_size_->show();
    const auto [columns, rows] = cells_in(sheet_->cut, sheet_->picture->width, sheet_->picture->height);
    const size_t empty = edit::empty_cells(*sheet_->picture, sheet_->cut).size();
    counts_->setText(tr("%1 × %2 pixels: %3 × %4 cells, %5 tiles, %6 empty")
                         .arg(sheet_->picture->width)
                         .arg(sheet_->picture->height)
                         .arg(columns)
                         .arg(rows)
                         .arg(size_t(columns) * size_t(rows) - empty)
                         .arg(empty));
    const double per_m = session_.project().pixels_per_m;
    const double w = sheet_->cut.cell_px[0] / per_m, h = sheet_->cut.cell_px[1] / per_m;
    const Character c = session_.character();
    drawn_size_->show_sizes({w, h}, c);
    size_->setText(tr("A tile is %1 × %2 at %3 pixels a metre; %4 is %5 tall, %6 tiles")
                       .arg(metres_text(w), metres_text(h), plain_number(per_m), session_.character_name(),
                            metres_text(c.height_m))
                       .arg(c.height_m / h, 0, 'f', 1));
}

std::array<int, 9> SheetDialog::around(int number) const {
    std::array<int, 9> out;
    out.fill(-1);
    // Those painted beside it in the level, where it is; else those of the sheet.
    for (const auto& layer : session_.level().layers) {
        if (!layer->tiles || (*layer->tiles)->sheet_file != sheet_->file) continue;
        const TileGrid& grid = (*layer->tiles)->grid;
        std::optional<CellAt> found;
        grid.for_each_tile(grid.area(), [&](CellAt at, Tile tile) {
            if (!found && tile == Tile(number)) found = at;
        });
        if (!found) continue;
        for (int k = 0; k < 9; ++k)
            out[size_t(k)] = grid.at({found->column + k % 3 - 1, found->row + k / 3 - 1}).number();
        return out;
    }
    const SheetTile* tile = sheet_->tile(number);
    if (tile && tile->box_px) return out; // it has no neighbours
    for (int k = 0; tile && k < 9; ++k)
        out[size_t(k)] = tile_in_cell(*sheet_, {tile->at[0] + k % 3 - 1, tile->at[1] + k / 3 - 1});
    return out;
}

void SheetDialog::show_chosen() {
    showing_ = true;
    const std::vector<int> tiles = view_->chosen_tiles();
    chosen_text_->setText(tiles.empty()       ? tr("Drag over tiles on the sheet to choose them")
                          : tiles.size() == 1 ? tr("Tile %1").arg(tiles[0])
                                              : tr("%1 tiles").arg(tiles.size()));
    kinds_->setExclusive(false);
    for (QAbstractButton* button : kinds_->buttons()) {
        button->setEnabled(!tiles.empty());
        const Kind kind = Kind(kinds_->id(button));
        button->setChecked(!tiles.empty() && std::all_of(tiles.begin(), tiles.end(), [&](int number) {
            return kind_of(sheet_->tiles.at(number)) == kind;
        }));
    }
    kinds_->setExclusive(true);
    const int number = tiles.empty() ? -1 : tiles[0];
    outline_->show_tile(sheet_, number, number < 0 ? std::array<int, 9>{} : around(number));
    name_->setEnabled(tiles.size() == 1);
    const QString name =
        tiles.size() == 1 ? QString::fromStdString(sheet_->tiles.at(number).name) : QString();
    if (name != name_->text()) name_->setText(name);
    show_corner();
    showing_ = false;
}

void SheetDialog::set_collision(int kind) {
    if (showing_) return;
    const std::vector<int> tiles = view_->chosen_tiles();
    constexpr TileCollision k_of[] = {TileCollision::none, TileCollision::full, TileCollision::outline,
                                      TileCollision::one_way};
    TileSheet sheet = edit::with_acts(*sheet_, tiles, kind == deadly ? TileActs::deadly : TileActs::nothing);
    if (kind != deadly) sheet = edit::with_collision(std::move(sheet), tiles, k_of[kind]);
    change(std::move(sheet));
}

void SheetDialog::take_outline() {
    if (showing_ || !edit::is_simple(outline_->outline())) return;
    const std::vector<int> tiles = view_->chosen_tiles();
    const std::vector<Vec2> outline = outline_->outline();
    sheet_ = std::make_shared<const TileSheet>(edit::with_outline(*sheet_, tiles, outline));
    view_->set_sheet(sheet_);
    showing_ = true;
    for (QAbstractButton* button : kinds_->buttons())
        if (!tiles.empty() && kinds_->id(button) == kind_of(sheet_->tiles.at(tiles[0])))
            button->setChecked(true);
    showing_ = false;
}

/// The chosen corner in pixels from the tile's lower left.
void SheetDialog::show_corner() {
    offer_ramp();
    const int corner = outline_->corner(), number = outline_->number();
    const bool chosen = corner >= 0 && sheet_->tile(number);
    for (QDoubleSpinBox* box : {corner_x_, corner_y_}) box->setEnabled(chosen);
    if (!chosen) return;
    const auto px = pixels_of(*sheet_, *sheet_->tile(number));
    const Vec2 at = outline_->outline()[size_t(corner)];
    const QSignalBlocker block_x(corner_x_), block_y(corner_y_);
    corner_x_->setRange(0, px[2]), corner_y_->setRange(0, px[3]);
    corner_x_->setValue(at.x * px[2]), corner_y_->setValue(at.y * px[3]);
}

void SheetDialog::take_corner() {
    const int corner = outline_->corner(), number = outline_->number();
    if (corner < 0 || !sheet_->tile(number)) return;
    const auto px = pixels_of(*sheet_, *sheet_->tile(number));
    std::vector<Vec2> outline = outline_->outline();
    outline[size_t(corner)] = {corner_x_->value() / px[2], corner_y_->value() / px[3]};
    outline_->set_outline(std::move(outline));
}

void SheetDialog::offer_ramp() { ramp_->setEnabled(edit::ramps_for_stairs(outline_->outline()).has_value()); }

void SheetDialog::shape_outline(const std::function<std::vector<Vec2>(std::vector<Vec2>)>& how) {
    if (outline_->outline().size() >= 3) outline_->set_outline(how(outline_->outline()));
}

} // namespace rubble::app
