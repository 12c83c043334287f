#include "settings/settings_dialog.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QFile>
#include <QFileDialog>
#include <QFormLayout>
#include <QHeaderView>
#include <QKeySequenceEdit>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>
#include <QSaveFile>
#include <QTabWidget>
#include <QVBoxLayout>

#include "settings/keys_file.h"

namespace rubble::app {

namespace {

/// A choice in a form, under its name.
QComboBox* add_choice(QFormLayout& form, const QString& name, const QStringList& choices, int now) {
    auto* box = new QComboBox;
    box->setAccessibleName(name);
    box->addItems(choices);
    box->setCurrentIndex(now);
    form.addRow(name, box);
    return box;
}

QCheckBox* add_switch(QFormLayout& form, const QString& name, bool on) {
    auto* box = new QCheckBox(name);
    box->setAccessibleName(name);
    box->setChecked(on);
    form.addRow(box);
    return box;
}

void add_remark(QFormLayout& form, const QString& text) {
    auto* label = new QLabel(text);
    label->setProperty("role", "faint");
    label->setWordWrap(true);
    form.addRow(label);
}

constexpr double k_text_scales[] = {1, 1.25, 1.5, 2};

} // namespace

SettingsDialog::SettingsDialog(Commands& commands, std::function<void(const Preferences&)> take,
                               QWidget* parent)
    : QDialog(parent),
      commands_(commands),
      take_(std::move(take)) {
    setWindowTitle(tr("Settings"));
    resize(fontMetrics().averageCharWidth() * 84, fontMetrics().height() * 32);
    auto* column = new QVBoxLayout(this);
    auto* pages = new QTabWidget;
    pages->setAccessibleName(tr("Pages"));
    pages->addTab(look_page(), tr("Look"));
    pages->addTab(mouse_page(), tr("Mouse"));
    pages->addTab(keys_page(), tr("Keys"));
    column->addWidget(pages, 1);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    buttons->button(QDialogButtonBox::Close)->setAutoDefault(false); // Enter belongs to the list
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
}

void SettingsDialog::change(const std::function<void(Preferences&)>& how) {
    how(now_);
    keep_preferences(now_);
    take_(now_);
}

QWidget* SettingsDialog::look_page() {
    auto* page = new QWidget;
    auto* form = new QFormLayout(page);
    auto* colors = add_choice(*form, tr("Colours"),
                              {tr("As the desktop has it"), tr("Light"), tr("Dark"), tr("Strong contrast")},
                              int(now_.colors));
    connect(colors, &QComboBox::activated, this,
            [this](int i) { change([i](Preferences& p) { p.colors = ColorChoice(i); }); });
    QStringList scales;
    int scale_now = 0;
    for (size_t i = 0; i < std::size(k_text_scales); ++i) {
        scales << tr("%1 %").arg(int(k_text_scales[i] * 100));
        if (std::abs(k_text_scales[i] - now_.text_scale) < 0.1) scale_now = int(i);
    }
    auto* text = add_choice(*form, tr("Size of text"), scales, scale_now);
    connect(text, &QComboBox::activated, this,
            [this](int i) { change([i](Preferences& p) { p.text_scale = k_text_scales[i]; }); });
    auto* lengths = add_choice(*form, tr("Lengths in"),
                               {tr("Metres"), tr("Centimetres"), tr("Steps of the grid")}, int(now_.lengths));
    connect(lengths, &QComboBox::activated, this,
            [this](int i) { change([i](Preferences& p) { p.lengths = LengthUnit(i); }); });
    add_remark(*form, tr("Numbers may be typed with m, cm or mm whatever is chosen here."));
    auto* copies =
        add_choice(*form, tr("Copy unsaved work aside after"),
                   {tr("1 second"), tr("3 seconds"), tr("5 seconds")}, (now_.copy_after_s - 1) / 2);
    connect(copies, &QComboBox::activated, this,
            [this](int i) { change([i](Preferences& p) { p.copy_after_s = 1 + 2 * i; }); });
    add_remark(*form, tr("After a crash the copy is offered when Rubble starts again."));
    return page;
}

QWidget* SettingsDialog::mouse_page() {
    auto* page = new QWidget;
    auto* form = new QFormLayout(page);
    const auto swapped = [](Qt::MouseButton& a, Qt::MouseButton& b) { std::swap(a, b); };
    auto* hand =
        add_choice(*form, tr("Draw and select with"), {tr("The left button"), tr("The right button")},
                   now_.mouse.work == Qt::LeftButton ? 0 : 1);
    connect(hand, &QComboBox::activated, this, [this, swapped](int i) {
        change([&](Preferences& p) {
            if ((p.mouse.work == Qt::LeftButton) == (i == 0)) return;
            // The button that draws now did what the other one does from now on.
            swapped(p.mouse.work, p.mouse.look == Qt::MiddleButton ? p.mouse.move : p.mouse.look);
        });
    });
    auto* look = add_choice(*form, tr("Look around with"), {tr("The other button"), tr("The middle button")},
                            now_.mouse.look == Qt::MiddleButton ? 1 : 0);
    connect(look, &QComboBox::activated, this, [this, swapped](int i) {
        change([&](Preferences& p) {
            if ((p.mouse.look == Qt::MiddleButton) != (i == 1)) swapped(p.mouse.look, p.mouse.move);
        });
    });
    add_remark(*form, tr("The third one moves the view, and so does Shift with the one that looks around."));
    auto* wheel = add_choice(*form, tr("The wheel, or two fingers"), {tr("Zooms"), tr("Moves the view")},
                             now_.mouse.wheel_moves ? 1 : 0);
    connect(wheel, &QComboBox::activated, this,
            [this](int i) { change([i](Preferences& p) { p.mouse.wheel_moves = i == 1; }); });
    add_remark(*form, tr("Where it moves the view, Ctrl with it zooms; pinching zooms always."));
    auto* turned = add_switch(*form, tr("Turned towards me it zooms in"), now_.mouse.wheel_turned);
    connect(turned, &QCheckBox::toggled, this,
            [this](bool on) { change([on](Preferences& p) { p.mouse.wheel_turned = on; }); });
    return page;
}

QWidget* SettingsDialog::keys_page() {
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    auto* search = new QLineEdit;
    search->setAccessibleName(tr("Look for"));
    search->setPlaceholderText(tr("A part of a command's name, or a key"));
    search->setClearButtonEnabled(true);
    column->addWidget(search);
    keys_ = new QTreeWidget;
    keys_->setAccessibleName(tr("Keys"));
    keys_->setHeaderLabels({tr("Command"), tr("Key"), tr("At first")});
    keys_->setRootIsDecorated(false);
    keys_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    keys_->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    keys_->header()->setSectionResizeMode(2, QHeaderView::ResizeToContents);
    keys_->header()->setStretchLastSection(false);
    column->addWidget(keys_, 1);
    auto* row = new QHBoxLayout;
    const std::pair<QString, std::function<void()>> offers[] = {
        {tr("Change…"), [this] { change_key_of(keys_->currentItem()); }},
        {tr("All as at first"),
         [this] {
             keys_as_at_first(commands_);
             fill_keys();
         }},
        {tr("Write to a file…"), [this] { save_keys(); }},
        {tr("Read from a file…"), [this] { read_keys(); }}};
    for (const auto& [text, act] : offers) {
        auto* button = new QPushButton(text);
        button->setAccessibleName(text);
        button->setAutoDefault(false);
        connect(button, &QPushButton::clicked, this, act);
        row->addWidget(button);
    }
    row->addStretch();
    column->addLayout(row);
    connect(search, &QLineEdit::textChanged, this, [this](const QString& text) {
        looked_for_ = text;
        fill_keys();
    });
    connect(keys_, &QTreeWidget::itemActivated, this, &SettingsDialog::change_key_of);
    fill_keys();
    return page;
}

void SettingsDialog::fill_keys() {
    const QString at =
        keys_->currentItem() ? keys_->currentItem()->data(0, Qt::UserRole).toString() : QString();
    keys_->clear();
    for (const Commands::Command* command : commands_.matching(looked_for_)) {
        const QKeySequence key = command->action->shortcut();
        auto* row = new QTreeWidgetItem(
            keys_,
            {command->name, key.toString(QKeySequence::NativeText),
             key == command->standard ? QString() : command->standard.toString(QKeySequence::NativeText)});
        row->setData(0, Qt::UserRole, command->id);
        if (command->id == at) keys_->setCurrentItem(row);
    }
    if (!keys_->currentItem() && keys_->topLevelItemCount() > 0)
        keys_->setCurrentItem(keys_->topLevelItem(0));
}

void SettingsDialog::change_key_of(QTreeWidgetItem* row) {
    if (!row) return;
    const QString id = row->data(0, Qt::UserRole).toString();
    QDialog ask(this);
    ask.setWindowTitle(tr("Key of “%1”").arg(row->text(0)));
    auto* column = new QVBoxLayout(&ask);
    column->addWidget(new QLabel(tr("Press the keys; without any the command has none.")));
    auto* key = new QKeySequenceEdit(commands_.find(id)->action->shortcut());
    key->setAccessibleName(tr("New key"));
    column->addWidget(key);
    auto* says = new QLabel;
    says->setWordWrap(true);
    column->addWidget(says);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    auto* none = buttons->addButton(tr("No key"), QDialogButtonBox::ResetRole);
    column->addWidget(buttons);
    connect(none, &QPushButton::clicked, key, &QKeySequenceEdit::clear);
    connect(buttons, &QDialogButtonBox::rejected, &ask, &QDialog::reject);
    connect(buttons, &QDialogButtonBox::accepted, &ask, [&] {
        if (const auto* other = commands_.change_key(id, key->keySequence()))
            says->setText(
                tr("“%1” has this key. Choose another, or take it from there first.").arg(other->name));
        else
            ask.accept();
    });
    key->setFocus();
    if (ask.exec() == QDialog::Accepted) fill_keys();
}

void SettingsDialog::save_keys() {
    const QString path = QFileDialog::getSaveFileName(this, tr("Write the keys"), QStringLiteral("keys.json"),
                                                      tr("Keys (*.json)"));
    if (path.isEmpty()) return;
    QSaveFile file(path);
    const QByteArray text = text_of_keys(commands_);
    if (!file.open(QIODevice::WriteOnly) || file.write(text) != text.size() || !file.commit())
        QMessageBox::warning(this, tr("Keys"),
                             tr("%1 could not be written: %2").arg(path, file.errorString()));
}

void SettingsDialog::read_keys() {
    const QString path =
        QFileDialog::getOpenFileName(this, tr("Read keys"), {}, tr("Keys (*.json);;All files (*)"));
    if (path.isEmpty()) return;
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly)) {
        QMessageBox::warning(this, tr("Keys"), tr("%1 could not be read: %2").arg(path, file.errorString()));
        return;
    }
    if (const auto taken = take_keys(commands_, file.readAll(), path); !taken)
        QMessageBox::warning(this, tr("Keys"), QString::fromStdString(taken.error().text()));
    fill_keys();
}

} // namespace rubble::app
