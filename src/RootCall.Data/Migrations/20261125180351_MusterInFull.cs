using System;
using System.Collections.Generic;
using System.Text.Json;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace RootCall.Data.Migrations
{
    /// <inheritdoc />
    public partial class MusterInFull : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "purpose",
                table: "roots",
                type: "text",
                nullable: false,
                defaultValue: "search");

            migrationBuilder.AddColumn<JsonDocument>(
                name: "rule",
                table: "ledger_entries",
                type: "jsonb",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "approved_rules",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    root = table.Column<string>(type: "text", nullable: false),
                    from = table.Column<string>(type: "text", nullable: false),
                    to = table.Column<string>(type: "text", nullable: false),
                    times = table.Column<int>(type: "integer", nullable: false),
                    approved_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_approved_rules", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "index_trees",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    folder = table.Column<string>(type: "text", nullable: false),
                    files = table.Column<int>(type: "integer", nullable: false),
                    folders = table.Column<int>(type: "integer", nullable: false),
                    indexed_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    notes = table.Column<List<string>>(type: "text[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_index_trees", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "known_files",
                columns: table => new
                {
                    path = table.Column<string>(type: "text", nullable: false),
                    bytes = table.Column<long>(type: "bigint", nullable: false),
                    modified = table.Column<long>(type: "bigint", nullable: false),
                    probe = table.Column<JsonDocument>(type: "jsonb", nullable: true),
                    hash = table.Column<string>(type: "text", nullable: true),
                    look = table.Column<long>(type: "bigint", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_known_files", x => x.path);
                });

            migrationBuilder.CreateTable(
                name: "seen_files",
                columns: table => new
                {
                    scene_id = table.Column<Guid>(type: "uuid", nullable: false),
                    reference = table.Column<string>(type: "text", nullable: false),
                    body = table.Column<JsonDocument>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_seen_files", x => new { x.scene_id, x.reference });
                    table.ForeignKey(
                        name: "fk_seen_files_scenes_scene_id",
                        column: x => x.scene_id,
                        principalTable: "scenes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "settings",
                columns: table => new
                {
                    key = table.Column<string>(type: "text", nullable: false),
                    value = table.Column<JsonDocument>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_settings", x => x.key);
                });

            migrationBuilder.CreateTable(
                name: "index_folders",
                columns: table => new
                {
                    tree_id = table.Column<Guid>(type: "uuid", nullable: false),
                    path = table.Column<string>(type: "text", nullable: false),
                    modified = table.Column<long>(type: "bigint", nullable: false),
                    names = table.Column<string[]>(type: "text[]", nullable: false),
                    sizes = table.Column<long[]>(type: "bigint[]", nullable: false),
                    times = table.Column<long[]>(type: "bigint[]", nullable: false),
                    folders = table.Column<string[]>(type: "text[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_index_folders", x => new { x.tree_id, x.path });
                    table.ForeignKey(
                        name: "fk_index_folders_index_trees_tree_id",
                        column: x => x.tree_id,
                        principalTable: "index_trees",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_approved_rules_root_from_to",
                table: "approved_rules",
                columns: new[] { "root", "from", "to" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_index_trees_folder",
                table: "index_trees",
                column: "folder",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "approved_rules");

            migrationBuilder.DropTable(
                name: "index_folders");

            migrationBuilder.DropTable(
                name: "known_files");

            migrationBuilder.DropTable(
                name: "seen_files");

            migrationBuilder.DropTable(
                name: "settings");

            migrationBuilder.DropTable(
                name: "index_trees");

            migrationBuilder.DropColumn(
                name: "purpose",
                table: "roots");

            migrationBuilder.DropColumn(
                name: "rule",
                table: "ledger_entries");
        }
    }
}
