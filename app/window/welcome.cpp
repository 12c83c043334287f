#include "window/welcome.h"

#include <QCheckBox>
#include <QCoreApplication>
#include <QCryptographicHash>
#include <QDir>
#include <QDirIterator>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSettings>
#include <QStandardPaths>
#include <QVBoxLayout>

#include "theme.h"
#include "window/arrangement.h"

namespace rubble::app {

namespace {

constexpr QSize k_file_picture{96, 60};

QString picture_path(const QString& file) {
    const QByteArray key =
        QCryptographicHash::hash(QFileInfo(file).absoluteFilePath().toUtf8(), QCryptographicHash::Sha1)
            .toHex();
    return QStandardPaths::writableLocation(QStandardPaths::CacheLocation) + QStringLiteral("/pictures/") +
           QString::fromLatin1(key) + QStringLiteral(".png");
}

QIcon icon_of(const QString& file) {
    QPixmap picture = picture_of_file(file);
    if (picture.isNull()) {
        picture = QPixmap(k_file_picture);
        picture.fill(color::line);
    }
    const QPixmap small =
        picture.scaled(k_file_picture, Qt::KeepAspectRatioByExpanding, Qt::SmoothTransformation);
    const QPoint middle = small.rect().center() - QRect({}, k_file_picture).center();
    return QIcon(small.copy(QRect(middle, k_file_picture)));
}

} // namespace

QString demo_folder() {
    const QString program = QCoreApplication::applicationDirPath();
    for (const QString& place : {program + QStringLiteral("/../share/rubble/packing-hall"),
                                 program + QStringLiteral("/../../demo-data/packing-hall")})
        if (QFileInfo::exists(place + QStringLiteral("/project.json"))) return QDir(place).canonicalPath();
    return {};
}

QString own_demo() {
    const QString from = demo_folder();
    const QString to =
        QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation) + QStringLiteral("/Rubble demo");
    if (QFileInfo::exists(to + QStringLiteral("/project.json"))) return to;
    if (from.isEmpty()) return {};
    QDirIterator files(from, QDir::Files, QDirIterator::Subdirectories);
    while (files.hasNext()) {
        const QString file = files.next(), target = to + file.mid(from.size());
        if (!QDir().mkpath(QFileInfo(target).path()) || !QFile::copy(file, target)) return {};
        QFile::setPermissions(target, QFile::permissions(target) | QFile::WriteOwner);
    }
    return to;
}

QPixmap picture_of_file(const QString& path) {
    QPixmap kept(picture_path(path));
    if (!kept.isNull()) return kept;
    // One that came with the project.
    const QFileInfo file(path);
    return QPixmap(file.path() + QStringLiteral("/../pictures/") + file.fileName().section('.', 0, 0) +
                   QStringLiteral(".png"));
}

void keep_picture_of_file(const QString& path, const QImage& image) {
    const QString place = picture_path(path);
    if (image.isNull() || !QDir().mkpath(QFileInfo(place).path())) return;
    image.scaled(2 * k_file_picture, Qt::KeepAspectRatioByExpanding, Qt::SmoothTransformation).save(place);
}

QListWidget* Welcome::add_files(QVBoxLayout& column, const QString& title) {
    auto* heading = new QLabel(QStringLiteral("<b>%1</b>").arg(title.toHtmlEscaped()));
    column.addWidget(heading);
    auto* list = new QListWidget;
    list->setAccessibleName(title);
    list->setIconSize(k_file_picture);
    list->setTextElideMode(Qt::ElideMiddle);
    column.addWidget(list, 1);
    const auto choose = [this](QListWidgetItem* item) {
        emit fileChosen(item->data(Qt::UserRole).toString());
        accept();
    };
    connect(list, &QListWidget::itemClicked, this, choose);
    connect(list, &QListWidget::itemActivated, this, choose);
    return list;
}

Welcome::Welcome(QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Begin"));
    resize(fontMetrics().averageCharWidth() * 110, fontMetrics().height() * 24);
    auto* column = new QVBoxLayout(this);
    auto* across = new QHBoxLayout;
    across->setSpacing(18);
    column->addLayout(across, 1);

    auto* begin = new QVBoxLayout;
    begin->addWidget(new QLabel(QStringLiteral("<b>%1</b>").arg(tr("A new level").toHtmlEscaped())));
    const std::tuple<QString, QString, Frame> frames[] = {
        {tr("Space"), tr("Walked through in all directions"), Frame::space},
        {tr("Side"), tr("Seen from the side, with tiles and jumps"), Frame::side},
        {tr("Plan"), tr("Seen from above, freely or from cell to cell"), Frame::plan}};
    for (const auto& [name, about, frame] : frames) {
        auto* button = new QPushButton(name);
        button->setAccessibleDescription(about);
        auto* text = new QLabel(about);
        text->setWordWrap(true);
        text->setProperty("role", "faint");
        begin->addWidget(button), begin->addWidget(text);
        connect(button, &QPushButton::clicked, this, [this, frame = frame] {
            emit newChosen(frame);
            accept();
        });
    }
    begin->addStretch();
    across->addLayout(begin, 2);

    if (const QStringList recent = recent_files(); !recent.isEmpty()) {
        auto* before = new QVBoxLayout;
        QListWidget* list = add_files(*before, tr("Worked on before"));
        for (const QString& path : recent) {
            auto* row = new QListWidgetItem(icon_of(path), QFileInfo(path).fileName() + '\n' +
                                                               QFileInfo(path).dir().dirName());
            row->setData(Qt::UserRole, path);
            row->setToolTip(QDir::toNativeSeparators(path));
            list->addItem(row);
        }
        across->addLayout(before, 3);
    }
    if (const QString demo = demo_folder(); !demo.isEmpty()) {
        auto* examples = new QVBoxLayout;
        QListWidget* list = add_files(*examples, tr("Levels to look at"));
        const std::pair<const char*, QString> levels[] = {
            {"packing-hall", tr("Packing Hall\nSpace: jumps, a key, dressed and lit")},
            {"low-tide-rooftops", tr("Low-Tide Rooftops\nSide: tiles and leaps over roofs")},
            {"pallet-shift-1", tr("Pallet Shift\nPlan: crates from cell to cell")}};
        for (const auto& [file, text] : levels) {
            const QString within = QStringLiteral("/levels/%1.level.json").arg(QLatin1String(file));
            if (!QFileInfo::exists(demo + within)) continue;
            auto* row = new QListWidgetItem(icon_of(demo + within), text);
            row->setData(Qt::UserRole, QStringLiteral("demo:") + within);
            list->addItem(row);
        }
        across->addLayout(examples, 3);
    }
    auto* again = new QCheckBox(tr("Show this when Rubble starts"));
    again->setAccessibleName(again->text());
    again->setChecked(QSettings().value(QStringLiteral("welcome"), true).toBool());
    connect(again, &QCheckBox::toggled, this,
            [](bool on) { QSettings().setValue(QStringLiteral("welcome"), on); });
    column->addWidget(again);
}

} // namespace rubble::app
