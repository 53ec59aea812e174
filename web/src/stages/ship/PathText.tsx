import { Fragment } from 'react';

/** A path that goes on in the next line after a stroke, not in the middle of a name, wherever that is enough. */
export function PathText({ path }: { path: string }) {
  const names = path.split('/');
  return (
    <span className="figures" style={{ overflowWrap: 'anywhere' }}>
      {names.map((name, i) => (
        <Fragment key={i}>
          {name}
          {i + 1 < names.length && (
            <>
              /<wbr />
            </>
          )}
        </Fragment>
      ))}
    </span>
  );
}
