import { specOf } from '@zygopod/core';
import { ChoiceField, FlagField } from './ChoiceField.tsx';
import { CurveField } from './CurveField.tsx';
import { useParameter } from './model.ts';
import { NumberField } from './NumberField.tsx';
import { SetField } from './SetField.tsx';

/** The row of any parameter, by its kind. */
export function ParameterField({ path }: { path: string }) {
  switch (specOf(path).kind) {
    case 'number':
      return <ParameterNumber path={path} />;
    case 'choice':
      return <ChoiceField path={path} />;
    case 'flag':
      return <FlagField path={path} />;
    case 'set':
      return <SetField path={path} />;
    case 'curve':
      return <CurveField path={path} />;
  }
}

function ParameterNumber({ path }: { path: string }) {
  return <NumberField model={useParameter(path)} />;
}
