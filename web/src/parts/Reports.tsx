/** What was found, decided and proven, as files. */
export function Reports({ sceneId }: { sceneId: string }) {
  const file = (format: string) => `/api/scenes/${sceneId}/audit/file?format=${format}`;
  return (
    <p className="flex flex-wrap items-baseline gap-x-4 text-[12.5px]">
      <span className="text-quiet">Report</span>
      <a className="act" href={file('html')} download>
        to read, with pictures
      </a>
      <a className="act soft" href={file('sarif')} download>
        SARIF
      </a>
      <a className="act soft" href={file('junit')} download>
        JUnit
      </a>
    </p>
  );
}
