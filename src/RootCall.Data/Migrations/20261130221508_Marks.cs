using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace RootCall.Data.Migrations
{
    /// <inheritdoc />
    public partial class Marks : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "marks",
                columns: table => new
                {
                    scene_id = table.Column<Guid>(type: "uuid", nullable: false),
                    material = table.Column<string>(type: "text", nullable: false),
                    kind = table.Column<string>(type: "text", nullable: false),
                    word = table.Column<string>(type: "text", nullable: false),
                    look = table.Column<string>(type: "text", nullable: false),
                    at = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("pk_marks", x => new { x.scene_id, x.material });
                    table.ForeignKey(
                        name: "fk_marks_scenes_scene_id",
                        column: x => x.scene_id,
                        principalTable: "scenes",
                        principalColumn: "id",
                        onDelete: ReferentialAction.Cascade);
                });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "marks");
        }
    }
}
