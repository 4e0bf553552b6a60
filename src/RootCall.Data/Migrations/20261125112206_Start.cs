using System;
using System.Collections.Generic;
using System.Text.Json;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace RootCall.Data.Migrations
{
    /// <inheritdoc />
    public partial class Start : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "roots",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    folder = table.Column<string>(type: "text", nullable: false),
                    position = table.Column<int>(type: "integer", nullable: false),
                    added_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_roots", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "scenes",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    created_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_scenes", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "work",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    title = table.Column<string>(type: "text", nullable: false),
                    scene_id = table.Column<Guid>(type: "uuid", nullable: true),
                    state = table.Column<string>(type: "text", nullable: false),
                    phase = table.Column<string>(type: "text", nullable: false),
                    detail = table.Column<string>(type: "text", nullable: false),
                    done = table.Column<long>(type: "bigint", nullable: false),
                    total = table.Column<long>(type: "bigint", nullable: false),
                    error = table.Column<string>(type: "text", nullable: true),
                    created_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    ended_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    job_id = table.Column<string>(type: "text", nullable: true),
                    request = table.Column<JsonDocument>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_work", x => x.id);
                });

            migrationBuilder.CreateTable(
                name: "arrivals",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    scene_id = table.Column<Guid>(type: "uuid", nullable: false),
                    version = table.Column<int>(type: "integer", nullable: false),
                    path = table.Column<string>(type: "text", nullable: false),
                    source = table.Column<string>(type: "text", nullable: false),
                    uploaded = table.Column<bool>(type: "boolean", nullable: false),
                    arrived_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    bytes = table.Column<long>(type: "bigint", nullable: false),
                    format_id = table.Column<string>(type: "text", nullable: false),
                    format_name = table.Column<string>(type: "text", nullable: false),
                    nodes = table.Column<int>(type: "integer", nullable: false),
                    meshes = table.Column<int>(type: "integer", nullable: false),
                    materials = table.Column<int>(type: "integer", nullable: false),
                    images = table.Column<int>(type: "integer", nullable: false),
                    triangles = table.Column<long>(type: "bigint", nullable: false),
                    scene = table.Column<JsonDocument>(type: "jsonb", nullable: false),
                    muster_revision = table.Column<int>(type: "integer", nullable: false),
                    mustered_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    files_indexed = table.Column<int>(type: "integer", nullable: false),
                    muster_notes = table.Column<List<string>>(type: "text[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_arrivals", x => x.id);
                    table.ForeignKey(
                        name: "fk_arrivals_scenes_scene_id",
                        column: x => x.scene_id,
                        principalTable: "scenes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "ledger_entries",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    scene_id = table.Column<Guid>(type: "uuid", nullable: false),
                    sequence = table.Column<int>(type: "integer", nullable: false),
                    sentence = table.Column<string>(type: "text", nullable: false),
                    state = table.Column<string>(type: "text", nullable: false),
                    proposed_by = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    edits = table.Column<JsonDocument>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_ledger_entries", x => x.id);
                    table.ForeignKey(
                        name: "fk_ledger_entries_scenes_scene_id",
                        column: x => x.scene_id,
                        principalTable: "scenes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "packages",
                columns: table => new
                {
                    id = table.Column<Guid>(type: "uuid", nullable: false),
                    scene_id = table.Column<Guid>(type: "uuid", nullable: false),
                    name = table.Column<string>(type: "text", nullable: false),
                    path = table.Column<string>(type: "text", nullable: false),
                    built_at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    files = table.Column<int>(type: "integer", nullable: false),
                    bytes_before = table.Column<long>(type: "bigint", nullable: false),
                    bytes_after = table.Column<long>(type: "bigint", nullable: false),
                    resolved = table.Column<int>(type: "integer", nullable: false),
                    unresolved = table.Column<List<string>>(type: "text[]", nullable: false),
                    broken_files = table.Column<List<string>>(type: "text[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_packages", x => x.id);
                    table.ForeignKey(
                        name: "fk_packages_scenes_scene_id",
                        column: x => x.scene_id,
                        principalTable: "scenes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "references",
                columns: table => new
                {
                    arrival_id = table.Column<Guid>(type: "uuid", nullable: false),
                    number = table.Column<int>(type: "integer", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    written = table.Column<string>(type: "text", nullable: false),
                    state = table.Column<string>(type: "text", nullable: false),
                    resolved = table.Column<string>(type: "text", nullable: true),
                    body = table.Column<JsonDocument>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_references", x => new { x.arrival_id, x.number });
                    table.ForeignKey(
                        name: "fk_references_arrivals_arrival_id",
                        column: x => x.arrival_id,
                        principalTable: "arrivals",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "ix_arrivals_path",
                table: "arrivals",
                column: "path");

            migrationBuilder.CreateIndex(
                name: "ix_arrivals_scene_id_version",
                table: "arrivals",
                columns: new[] { "scene_id", "version" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_ledger_entries_scene_id_sequence",
                table: "ledger_entries",
                columns: new[] { "scene_id", "sequence" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_packages_scene_id",
                table: "packages",
                column: "scene_id");

            migrationBuilder.CreateIndex(
                name: "ix_references_arrival_id_state",
                table: "references",
                columns: new[] { "arrival_id", "state" });

            migrationBuilder.CreateIndex(
                name: "ix_roots_folder",
                table: "roots",
                column: "folder",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "ix_work_state_created_at",
                table: "work",
                columns: new[] { "state", "created_at" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "ledger_entries");

            migrationBuilder.DropTable(
                name: "packages");

            migrationBuilder.DropTable(
                name: "references");

            migrationBuilder.DropTable(
                name: "roots");

            migrationBuilder.DropTable(
                name: "work");

            migrationBuilder.DropTable(
                name: "arrivals");

            migrationBuilder.DropTable(
                name: "scenes");
        }
    }
}
